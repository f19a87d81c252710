using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class Undo : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<byte[]>(
                name: "SaidBy",
                table: "Statements",
                type: "BLOB",
                nullable: true);

            migrationBuilder.AddColumn<byte[]>(
                name: "SettledBy",
                table: "Statements",
                type: "BLOB",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Statements_SettledBy",
                table: "Statements",
                column: "SettledBy",
                filter: "\"SettledBy\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_Undoes",
                table: "Ledger",
                column: "Undoes",
                filter: "\"Undoes\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Statements_SettledBy",
                table: "Statements");

            migrationBuilder.DropIndex(
                name: "IX_Ledger_Undoes",
                table: "Ledger");

            migrationBuilder.DropColumn(
                name: "SaidBy",
                table: "Statements");

            migrationBuilder.DropColumn(
                name: "SettledBy",
                table: "Statements");
        }
    }
}
