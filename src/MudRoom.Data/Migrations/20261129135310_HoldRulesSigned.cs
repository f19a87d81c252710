using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class HoldRulesSigned : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "BatchPattern",
                table: "HoldRules",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "By",
                table: "HoldRules",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "Counted",
                table: "HoldRules",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "EndedAt",
                table: "HoldRules",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "EndedBy",
                table: "HoldRules",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "From",
                table: "HoldRules",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "ItemId",
                table: "HoldRules",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "SeasonFirst",
                table: "HoldRules",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "SeasonLast",
                table: "HoldRules",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "Since",
                table: "HoldRules",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<int>(
                name: "VendorId",
                table: "HoldRules",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Lots_SiteId_OpenedAt",
                table: "Lots",
                columns: new[] { "SiteId", "OpenedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_HoldRules_EndedAt",
                table: "HoldRules",
                column: "EndedAt");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Lots_SiteId_OpenedAt",
                table: "Lots");

            migrationBuilder.DropIndex(
                name: "IX_HoldRules_EndedAt",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "BatchPattern",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "By",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "Counted",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "EndedAt",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "EndedBy",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "From",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "ItemId",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "SeasonFirst",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "SeasonLast",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "Since",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "VendorId",
                table: "HoldRules");
        }
    }
}
