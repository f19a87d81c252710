using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class PlanVersions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Outcomes",
                table: "Inspections",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "PlanVersion",
                table: "Inspections",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "PlanVersions",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    PlanId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    DraftedBy = table.Column<string>(type: "TEXT", nullable: false),
                    DraftedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    SignedBy = table.Column<string>(type: "TEXT", nullable: true),
                    SignedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    From = table.Column<long>(type: "INTEGER", nullable: true),
                    Comment = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PlanVersions", x => x.Id);
                    table.ForeignKey(
                        name: "FK_PlanVersions_InspectionPlans_PlanId",
                        column: x => x.PlanId,
                        principalTable: "InspectionPlans",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "SeverityWords",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    Said = table.Column<int>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SeverityWords", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SeverityWords_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_SeverityWords_Sites_SiteId",
                        column: x => x.SiteId,
                        principalTable: "Sites",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_SeverityWords_Vendors_VendorId",
                        column: x => x.VendorId,
                        principalTable: "Vendors",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            // What a plan said is its first version, in force since ever: decimals were kept as whole millionths.
            migrationBuilder.Sql(
                """
                INSERT INTO "PlanVersions" ("PlanId", "Number", "Text", "DraftedBy", "DraftedAt", "SignedBy", "SignedAt", "From")
                SELECT p."Id", 1, json_object(
                    'samplingUnit', p."SamplingUnit",
                    'rules', json_object(
                        'Major', json_object('rule', 'iso-2859-1', 'level', p."Level", 'aql', p."AqlMajor" / 1000000.0),
                        'Minor', json_object('rule', 'iso-2859-1', 'level', p."Level", 'aql', p."AqlMinor" / 1000000.0)
                    ),
                    'characteristics', (
                        SELECT json_group_array(json_object(
                            'id', c."Id", 'name', c."Name", 'class', c."Class", 'unit', c."Unit",
                            'nominal', c."Nominal" / 1000000.0, 'lower', c."Lower" / 1000000.0, 'upper', c."Upper" / 1000000.0,
                            'gauge', c."Gauge", 'gaugeLow', c."GaugeLow" / 1000000.0, 'gaugeHigh', c."GaugeHigh" / 1000000.0,
                            'passWord', c."PassWord", 'failWord', c."FailWord", 'instruction', c."Instruction"))
                        FROM (SELECT * FROM "Characteristics" WHERE "InspectionPlanId" = p."Id" ORDER BY "Id") c
                    )
                ), 'upgrade', 0, 'upgrade', 0, 0
                FROM "InspectionPlans" p
                """
            );
            migrationBuilder.Sql("UPDATE \"Inspections\" SET \"PlanVersion\" = 1 WHERE \"State\" <> 0");
            migrationBuilder.DropTable(name: "Characteristics");
            foreach (var column in new[] { "AqlMajor", "AqlMinor", "Level", "SamplingUnit" })
                migrationBuilder.Sql($"ALTER TABLE \"InspectionPlans\" DROP COLUMN \"{column}\"");

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_SiteId_ItemId_VendorId_SignedAt",
                table: "Inspections",
                columns: new[] { "SiteId", "ItemId", "VendorId", "SignedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_InspectionPlans_Name",
                table: "InspectionPlans",
                column: "Name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_PlanVersions_PlanId_Number",
                table: "PlanVersions",
                columns: new[] { "PlanId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_SeverityWords_ItemId",
                table: "SeverityWords",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_SeverityWords_SiteId_ItemId_VendorId",
                table: "SeverityWords",
                columns: new[] { "SiteId", "ItemId", "VendorId" });

            migrationBuilder.CreateIndex(
                name: "IX_SeverityWords_VendorId",
                table: "SeverityWords",
                column: "VendorId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "PlanVersions");

            migrationBuilder.DropTable(
                name: "SeverityWords");

            migrationBuilder.DropIndex(
                name: "IX_Inspections_SiteId_ItemId_VendorId_SignedAt",
                table: "Inspections");

            migrationBuilder.DropIndex(
                name: "IX_InspectionPlans_Name",
                table: "InspectionPlans");

            migrationBuilder.DropColumn(
                name: "Outcomes",
                table: "Inspections");

            migrationBuilder.DropColumn(
                name: "PlanVersion",
                table: "Inspections");

            migrationBuilder.AddColumn<long>(
                name: "AqlMajor",
                table: "InspectionPlans",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "AqlMinor",
                table: "InspectionPlans",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<int>(
                name: "Level",
                table: "InspectionPlans",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "SamplingUnit",
                table: "InspectionPlans",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "Characteristics",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Class = table.Column<int>(type: "INTEGER", nullable: false),
                    FailWord = table.Column<string>(type: "TEXT", nullable: false),
                    Gauge = table.Column<string>(type: "TEXT", nullable: true),
                    GaugeHigh = table.Column<long>(type: "INTEGER", nullable: true),
                    GaugeLow = table.Column<long>(type: "INTEGER", nullable: true),
                    InspectionPlanId = table.Column<int>(type: "INTEGER", nullable: false),
                    Instruction = table.Column<string>(type: "TEXT", nullable: false),
                    Lower = table.Column<long>(type: "INTEGER", nullable: true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Nominal = table.Column<long>(type: "INTEGER", nullable: true),
                    PassWord = table.Column<string>(type: "TEXT", nullable: false),
                    Unit = table.Column<string>(type: "TEXT", nullable: true),
                    Upper = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Characteristics", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Characteristics_InspectionPlans_InspectionPlanId",
                        column: x => x.InspectionPlanId,
                        principalTable: "InspectionPlans",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Characteristics_InspectionPlanId",
                table: "Characteristics",
                column: "InspectionPlanId");
        }
    }
}
