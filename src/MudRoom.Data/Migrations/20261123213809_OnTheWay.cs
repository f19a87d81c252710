using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class OnTheWay : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "InTransit",
                table: "ManifestLines",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<string>(
                name: "DeliveryNotes",
                table: "Arrivals",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.CreateIndex(
                name: "IX_ManifestLines_InTransit",
                table: "ManifestLines",
                column: "InTransit",
                filter: "\"InTransit\" > 0");

            migrationBuilder.CreateIndex(
                name: "IX_Arrivals_AdviceNumber",
                table: "Arrivals",
                column: "AdviceNumber",
                filter: "\"AdviceNumber\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_ManifestLines_InTransit",
                table: "ManifestLines");

            migrationBuilder.DropIndex(
                name: "IX_Arrivals_AdviceNumber",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "InTransit",
                table: "ManifestLines");

            migrationBuilder.DropColumn(
                name: "DeliveryNotes",
                table: "Arrivals");
        }
    }
}
