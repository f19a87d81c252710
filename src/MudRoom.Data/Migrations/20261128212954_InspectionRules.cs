using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class InspectionRules : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AlterColumn<int>(
                name: "VendorId",
                table: "Inspections",
                type: "INTEGER",
                nullable: true,
                oldClrType: typeof(int),
                oldType: "INTEGER");

            migrationBuilder.AlterColumn<int>(
                name: "ArrivalId",
                table: "Inspections",
                type: "INTEGER",
                nullable: true,
                oldClrType: typeof(int),
                oldType: "INTEGER");

            migrationBuilder.AddColumn<string>(
                name: "AskedBecause",
                table: "Inspections",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "AskedBy",
                table: "Inspections",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Cleared",
                table: "Inspections",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<long>(
                name: "CountsAs",
                table: "Inspections",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<byte[]>(
                name: "FoundBy",
                table: "Inspections",
                type: "BLOB",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "LetsUse",
                table: "Inspections",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Notes",
                table: "Inspections",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<int>(
                name: "RuleId",
                table: "Inspections",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "SkipSeed",
                table: "Inspections",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SkipWhy",
                table: "Inspections",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "SupersedesId",
                table: "Inspections",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "TakenAt",
                table: "Inspections",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "TakenBy",
                table: "Inspections",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "TakenById",
                table: "Inspections",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Trigger",
                table: "Inspections",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "Gauges",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false, collation: "NOCASE"),
                    CalibratedUntil = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    KeptBy = table.Column<string>(type: "TEXT", nullable: false),
                    KeptAt = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Gauges", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Gauges_Sites_SiteId",
                        column: x => x.SiteId,
                        principalTable: "Sites",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "InspectionRules",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    PlanId = table.Column<int>(type: "INTEGER", nullable: true),
                    Trigger = table.Column<int>(type: "INTEGER", nullable: true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: true),
                    Category = table.Column<string>(type: "TEXT", nullable: false),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: true),
                    Origin = table.Column<string>(type: "TEXT", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false),
                    EndedBy = table.Column<string>(type: "TEXT", nullable: true),
                    EndedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_InspectionRules", x => x.Id);
                    table.ForeignKey(
                        name: "FK_InspectionRules_InspectionPlans_PlanId",
                        column: x => x.PlanId,
                        principalTable: "InspectionPlans",
                        principalColumn: "Id");
                    table.ForeignKey(
                        name: "FK_InspectionRules_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id");
                    table.ForeignKey(
                        name: "FK_InspectionRules_Vendors_VendorId",
                        column: x => x.VendorId,
                        principalTable: "Vendors",
                        principalColumn: "Id");
                });

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_RuleId",
                table: "Inspections",
                column: "RuleId");

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_SupersedesId",
                table: "Inspections",
                column: "SupersedesId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Gauges_SiteId_Name",
                table: "Gauges",
                columns: new[] { "SiteId", "Name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_InspectionRules_EndedAt",
                table: "InspectionRules",
                column: "EndedAt");

            migrationBuilder.CreateIndex(
                name: "IX_InspectionRules_ItemId",
                table: "InspectionRules",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_InspectionRules_PlanId",
                table: "InspectionRules",
                column: "PlanId");

            migrationBuilder.CreateIndex(
                name: "IX_InspectionRules_VendorId",
                table: "InspectionRules",
                column: "VendorId");

            migrationBuilder.AddForeignKey(
                name: "FK_Inspections_InspectionRules_RuleId",
                table: "Inspections",
                column: "RuleId",
                principalTable: "InspectionRules",
                principalColumn: "Id");

            migrationBuilder.AddForeignKey(
                name: "FK_Inspections_Inspections_SupersedesId",
                table: "Inspections",
                column: "SupersedesId",
                principalTable: "Inspections",
                principalColumn: "Id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Inspections_InspectionRules_RuleId",
                table: "Inspections");

            migrationBuilder.DropForeignKey(
                name: "FK_Inspections_Inspections_SupersedesId",
                table: "Inspections");

            migrationBuilder.DropTable(
                name: "Gauges");

            migrationBuilder.DropTable(
                name: "InspectionRules");

            migrationBuilder.DropIndex(
                name: "IX_Inspections_RuleId",
                table: "Inspections");

            migrationBuilder.DropIndex(
                name: "IX_Inspections_SupersedesId",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "AskedBecause",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "AskedBy",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "Cleared",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "CountsAs",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "FoundBy",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "LetsUse",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "Notes",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "RuleId",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "SkipSeed",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "SkipWhy",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "SupersedesId",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "TakenAt",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "TakenBy",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "TakenById",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "Trigger",
                table: "Inspections");

            migrationBuilder.AlterColumn<int>(
                name: "VendorId",
                table: "Inspections",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0,
                oldClrType: typeof(int),
                oldType: "INTEGER",
                oldNullable: true);

            migrationBuilder.AlterColumn<int>(
                name: "ArrivalId",
                table: "Inspections",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0,
                oldClrType: typeof(int),
                oldType: "INTEGER",
                oldNullable: true);
        }
    }
}
