using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class SampleWay : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "AsksInspection",
                table: "OrderLines",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Pictures",
                table: "Inspections",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Pieces",
                table: "Inspections",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<int>(
                name: "SampleBinId",
                table: "Inspections",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SampleWent",
                table: "Inspections",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<long>(
                name: "Sampled",
                table: "Inspections",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBecause",
                table: "Inspections",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "Inspections",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "AfterDays",
                table: "InspectionRules",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "BenchPictures",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    InspectionId = table.Column<int>(type: "INTEGER", nullable: true),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Content = table.Column<byte[]>(type: "BLOB", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_BenchPictures", x => x.Id);
                    table.ForeignKey(
                        name: "FK_BenchPictures_Inspections_InspectionId",
                        column: x => x.InspectionId,
                        principalTable: "Inspections",
                        principalColumn: "Id");
                    table.ForeignKey(
                        name: "FK_BenchPictures_Sites_SiteId",
                        column: x => x.SiteId,
                        principalTable: "Sites",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_SampleBinId",
                table: "Inspections",
                column: "SampleBinId");

            migrationBuilder.CreateIndex(
                name: "IX_BenchPictures_InspectionId",
                table: "BenchPictures",
                column: "InspectionId");

            migrationBuilder.CreateIndex(
                name: "IX_BenchPictures_SiteId",
                table: "BenchPictures",
                column: "SiteId");

            migrationBuilder.AddForeignKey(
                name: "FK_Inspections_Bins_SampleBinId",
                table: "Inspections",
                column: "SampleBinId",
                principalTable: "Bins",
                principalColumn: "Id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Inspections_Bins_SampleBinId",
                table: "Inspections");

            migrationBuilder.DropTable(
                name: "BenchPictures");

            migrationBuilder.DropIndex(
                name: "IX_Inspections_SampleBinId",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "AsksInspection",
                table: "OrderLines");

            migrationBuilder.DropColumn(
                name: "Pictures",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "Pieces",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "SampleBinId",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "SampleWent",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "Sampled",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "WithdrawnBecause",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "AfterDays",
                table: "InspectionRules");
        }
    }
}
