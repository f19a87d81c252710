using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class HoldTimesAndSheets : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "SheetVersion",
                table: "Inspections",
                type: "INTEGER",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<int>(
                name: "CameFromId",
                table: "Holds",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Times",
                table: "Holds",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Before",
                table: "Finding",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Gauge",
                table: "Characteristics",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "GaugeHigh",
                table: "Characteristics",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "GaugeLow",
                table: "Characteristics",
                type: "INTEGER",
                nullable: true);

            // The book is only ever appended to, whoever opens the file.
            migrationBuilder.Sql("CREATE TRIGGER LedgerIsNotChanged BEFORE UPDATE ON Ledger BEGIN SELECT RAISE(ABORT, 'The ledger is not changed: undo is a counter-entry.'); END");
            migrationBuilder.Sql("CREATE TRIGGER LedgerIsNotErased BEFORE DELETE ON Ledger BEGIN SELECT RAISE(ABORT, 'The ledger is not erased: undo is a counter-entry.'); END");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP TRIGGER LedgerIsNotChanged");
            migrationBuilder.Sql("DROP TRIGGER LedgerIsNotErased");
            migrationBuilder.DropColumn(
                name: "SheetVersion",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "CameFromId",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "Times",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "Before",
                table: "Finding");

            migrationBuilder.DropColumn(
                name: "Gauge",
                table: "Characteristics");

            migrationBuilder.DropColumn(
                name: "GaugeHigh",
                table: "Characteristics");

            migrationBuilder.DropColumn(
                name: "GaugeLow",
                table: "Characteristics");
        }
    }
}
