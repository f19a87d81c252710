using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class Tasks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "CarriedBy",
                table: "Bins",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Tasks",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Kind = table.Column<int>(type: "INTEGER", nullable: false),
                    FromBinId = table.Column<int>(type: "INTEGER", nullable: false),
                    AtBinId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    UnitId = table.Column<int>(type: "INTEGER", nullable: true),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    Standing = table.Column<int>(type: "INTEGER", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false),
                    TargetBinId = table.Column<int>(type: "INTEGER", nullable: true),
                    Trail = table.Column<string>(type: "TEXT", nullable: true),
                    State = table.Column<int>(type: "INTEGER", nullable: false),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: true),
                    PersonName = table.Column<string>(type: "TEXT", nullable: true),
                    TakenAt = table.Column<long>(type: "INTEGER", nullable: true),
                    DoneAt = table.Column<long>(type: "INTEGER", nullable: true),
                    IsLoaded = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Tasks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Tasks_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Tasks_ItemId",
                table: "Tasks",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Tasks_Key_State",
                table: "Tasks",
                columns: new[] { "Key", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_Tasks_SiteId_State",
                table: "Tasks",
                columns: new[] { "SiteId", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_Tasks_TargetBinId_State",
                table: "Tasks",
                columns: new[] { "TargetBinId", "State" });

            // What drivers have taken and done stays; goods that were scanned are scanned once more, and are on a truck then. What waits is
            // worked out when the database is opened.
            migrationBuilder.Sql(
                """
                INSERT INTO "Tasks" ("Id", "SiteId", "Kind", "FromBinId", "AtBinId", "ItemId", "BatchId", "UnitId", "Serial", "Standing", "Key",
                    "Quantity", "Since", "TargetBinId", "Trail", "State", "PersonId", "PersonName", "TakenAt", "DoneAt", "IsLoaded")
                SELECT "Id", "SiteId", CASE "Standing" WHEN 0 THEN 0 WHEN 1 THEN 1 ELSE 2 END, "FromBinId", "FromBinId", "ItemId", "BatchId",
                    "UnitId", "Serial", "Standing",
                    "FromBinId" || '|' || "Standing" || '|' || "ItemId" || '|' || COALESCE("BatchId", '') || '|' || COALESCE("UnitId", '')
                        || '|' || COALESCE("Serial", '') || '|',
                    "Quantity", "TakenAt", "TargetBinId", "Trail", "State", "PersonId", "PersonName", "TakenAt", "DoneAt", 0
                FROM "Jobs";
                UPDATE "Sites" SET "Planning" = replace("Planning", '"JobsPerHour"', '"TasksPerHour"');
                """
            );
            migrationBuilder.DropTable(name: "Jobs");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Tasks");

            migrationBuilder.DropColumn(
                name: "CarriedBy",
                table: "Bins");

            migrationBuilder.CreateTable(
                name: "Jobs",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    DoneAt = table.Column<long>(type: "INTEGER", nullable: true),
                    FromBinId = table.Column<int>(type: "INTEGER", nullable: false),
                    GoodsScannedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: false),
                    PersonName = table.Column<string>(type: "TEXT", nullable: false),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Standing = table.Column<int>(type: "INTEGER", nullable: false),
                    State = table.Column<int>(type: "INTEGER", nullable: false),
                    TakenAt = table.Column<long>(type: "INTEGER", nullable: false),
                    TargetBinId = table.Column<int>(type: "INTEGER", nullable: true),
                    Trail = table.Column<string>(type: "TEXT", nullable: true),
                    UnitId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Jobs", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Jobs_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Jobs_ItemId",
                table: "Jobs",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Jobs_SiteId_State",
                table: "Jobs",
                columns: new[] { "SiteId", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_Jobs_TargetBinId_State",
                table: "Jobs",
                columns: new[] { "TargetBinId", "State" });
        }
    }
}
