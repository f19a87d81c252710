using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class Decisions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "UsableUntil",
                table: "Holds",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "CameAsItemId",
                table: "Batches",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Holds_UsableUntil",
                table: "Holds",
                column: "UsableUntil",
                filter: "\"UsableUntil\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Holds_UsableUntil",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "UsableUntil",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "CameAsItemId",
                table: "Batches");
        }
    }
}
