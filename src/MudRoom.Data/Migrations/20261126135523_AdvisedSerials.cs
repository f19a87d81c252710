using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class AdvisedSerials : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Serial",
                table: "AdvisedUnits",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_AdvisedUnits_ItemId_Serial",
                table: "AdvisedUnits",
                columns: new[] { "ItemId", "Serial" },
                filter: "Serial IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_AdvisedUnits_ItemId_Serial",
                table: "AdvisedUnits");

            migrationBuilder.DropColumn(
                name: "Serial",
                table: "AdvisedUnits");
        }
    }
}
