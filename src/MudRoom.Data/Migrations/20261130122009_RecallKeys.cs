using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class RecallKeys : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Recalls compare numbers in capitals.
            migrationBuilder.Sql("CREATE INDEX IX_Batches_NumberInCapitals ON Batches (upper(Number))");
            migrationBuilder.Sql("CREATE INDEX IX_SourceBatches_NumberInCapitals ON SourceBatches (upper(Number))");

            migrationBuilder.CreateIndex(
                name: "IX_SourceBatches_VendorId",
                table: "SourceBatches",
                column: "VendorId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP INDEX IX_Batches_NumberInCapitals");
            migrationBuilder.Sql("DROP INDEX IX_SourceBatches_NumberInCapitals");

            migrationBuilder.DropIndex(
                name: "IX_SourceBatches_VendorId",
                table: "SourceBatches");
        }
    }
}
