using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class Planning : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due",
                table: "LineParts");

            migrationBuilder.AddColumn<string>(
                name: "Planning",
                table: "Sites",
                type: "TEXT",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<string>(
                name: "Skills",
                table: "People",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Approvals",
                table: "Orders",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Note",
                table: "OrderLines",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "Coming",
                table: "LineParts",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "InDraft",
                table: "LineParts",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "VendorId",
                table: "LineParts",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "Special",
                table: "Doors",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Vehicles",
                table: "Doors",
                type: "TEXT",
                nullable: false,
                defaultValue: "[\"truck\",\"container\",\"van\",\"parcel\"]");

            migrationBuilder.AddColumn<long>(
                name: "Booked",
                table: "Arrivals",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "CalledAt",
                table: "Arrivals",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Crew",
                table: "Arrivals",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<long>(
                name: "EmptyAt",
                table: "Arrivals",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "GateOutAt",
                table: "Arrivals",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Handling",
                table: "Arrivals",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "Overrulings",
                table: "Arrivals",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Papers",
                table: "Arrivals",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "PlanVersion",
                table: "Arrivals",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "PlannedAt",
                table: "Arrivals",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "PlannedBy",
                table: "Arrivals",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SealFound",
                table: "Arrivals",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SealReason",
                table: "Arrivals",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "UnitsAboard",
                table: "Arrivals",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "UnloadedAt",
                table: "Arrivals",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Unplanned",
                table: "Arrivals",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateTable(
                name: "AdviceDifferences",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    Sentence = table.Column<string>(type: "TEXT", nullable: false),
                    Decision = table.Column<string>(type: "TEXT", nullable: true),
                    DecidedBy = table.Column<string>(type: "TEXT", nullable: true),
                    DecidedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AdviceDifferences", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AdviceDifferences_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AdvisedUnits",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    Sscc = table.Column<string>(type: "TEXT", nullable: true),
                    ParentSscc = table.Column<string>(type: "TEXT", nullable: true),
                    PackageType = table.Column<string>(type: "TEXT", nullable: true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: true),
                    PartId = table.Column<int>(type: "INTEGER", nullable: true),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    SourceBatch = table.Column<string>(type: "TEXT", nullable: true),
                    Production = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    BestBefore = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    Expiry = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AdvisedUnits", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AdvisedUnits_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Attachments",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    MediaType = table.Column<string>(type: "TEXT", nullable: false),
                    Content = table.Column<byte[]>(type: "BLOB", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Attachments", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Attachments_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "EtaChanges",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    From = table.Column<long>(type: "INTEGER", nullable: true),
                    To = table.Column<long>(type: "INTEGER", nullable: false),
                    Source = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_EtaChanges", x => x.Id);
                    table.ForeignKey(
                        name: "FK_EtaChanges_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ImportedFiles",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Sentence = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ImportedFiles", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "OrderChanges",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    OrderId = table.Column<int>(type: "INTEGER", nullable: false),
                    PartId = table.Column<int>(type: "INTEGER", nullable: true),
                    Sentence = table.Column<string>(type: "TEXT", nullable: false),
                    Source = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OrderChanges", x => x.Id);
                    table.ForeignKey(
                        name: "FK_OrderChanges_Orders_OrderId",
                        column: x => x.OrderId,
                        principalTable: "Orders",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Promises",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    PartId = table.Column<int>(type: "INTEGER", nullable: false),
                    With = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    For = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Promises", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Promises_LineParts_PartId",
                        column: x => x.PartId,
                        principalTable: "LineParts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Roster",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: false),
                    From = table.Column<TimeOnly>(type: "TEXT", nullable: false),
                    To = table.Column<TimeOnly>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Roster", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Roster_People_PersonId",
                        column: x => x.PersonId,
                        principalTable: "People",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "YardSpots",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    Vehicles = table.Column<string>(type: "TEXT", nullable: false),
                    ColdPlug = table.Column<bool>(type: "INTEGER", nullable: false),
                    X = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_YardSpots", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_SiteId_PostedAt",
                table: "Receipts",
                columns: new[] { "SiteId", "PostedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Orders_OrderDate_Number",
                table: "Orders",
                columns: new[] { "OrderDate", "Number" });

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due_Coming",
                table: "LineParts",
                columns: new[] { "SiteId", "IsOpen", "Due", "Coming" });

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_SiteId_IsOpen_VendorId_Due",
                table: "LineParts",
                columns: new[] { "SiteId", "IsOpen", "VendorId", "Due" });

            migrationBuilder.CreateIndex(
                name: "IX_Arrivals_ContainerNumber",
                table: "Arrivals",
                column: "ContainerNumber",
                filter: "\"ContainerNumber\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Arrivals_SiteId_Planned",
                table: "Arrivals",
                columns: new[] { "SiteId", "Planned" });

            migrationBuilder.CreateIndex(
                name: "IX_AdviceDifferences_ArrivalId",
                table: "AdviceDifferences",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_AdvisedUnits_ArrivalId",
                table: "AdvisedUnits",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_AdvisedUnits_Sscc",
                table: "AdvisedUnits",
                column: "Sscc");

            migrationBuilder.CreateIndex(
                name: "IX_Attachments_ArrivalId",
                table: "Attachments",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_EtaChanges_ArrivalId",
                table: "EtaChanges",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_ImportedFiles_Hash",
                table: "ImportedFiles",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_OrderChanges_OrderId",
                table: "OrderChanges",
                column: "OrderId");

            migrationBuilder.CreateIndex(
                name: "IX_Promises_PartId",
                table: "Promises",
                column: "PartId");

            migrationBuilder.CreateIndex(
                name: "IX_Roster_PersonId",
                table: "Roster",
                column: "PersonId");

            migrationBuilder.CreateIndex(
                name: "IX_Roster_SiteId_Day_PersonId",
                table: "Roster",
                columns: new[] { "SiteId", "Day", "PersonId" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_YardSpots_SiteId_Number",
                table: "YardSpots",
                columns: new[] { "SiteId", "Number" },
                unique: true);
            // What older rows did not say yet.
            migrationBuilder.Sql("UPDATE Arrivals SET Booked = Planned");
            migrationBuilder.Sql("UPDATE LineParts SET VendorId = (SELECT o.VendorId FROM OrderLines l JOIN Orders o ON o.Id = l.OrderId WHERE l.Id = LineParts.LineId)");
            migrationBuilder.Sql("UPDATE LineParts SET InDraft = 1, IsOpen = 0 WHERE LineId IN (SELECT l.Id FROM OrderLines l JOIN Orders o ON o.Id = l.OrderId WHERE o.State = 0)");
            migrationBuilder.Sql("UPDATE Arrivals SET UnitsAboard = 1 WHERE UnitsAboard = 0");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "AdviceDifferences");

            migrationBuilder.DropTable(
                name: "AdvisedUnits");

            migrationBuilder.DropTable(
                name: "Attachments");

            migrationBuilder.DropTable(
                name: "EtaChanges");

            migrationBuilder.DropTable(
                name: "ImportedFiles");

            migrationBuilder.DropTable(
                name: "OrderChanges");

            migrationBuilder.DropTable(
                name: "Promises");

            migrationBuilder.DropTable(
                name: "Roster");

            migrationBuilder.DropTable(
                name: "YardSpots");

            migrationBuilder.DropIndex(
                name: "IX_Receipts_SiteId_PostedAt",
                table: "Receipts");

            migrationBuilder.DropIndex(
                name: "IX_Orders_OrderDate_Number",
                table: "Orders");

            migrationBuilder.DropIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due_Coming",
                table: "LineParts");

            migrationBuilder.DropIndex(
                name: "IX_LineParts_SiteId_IsOpen_VendorId_Due",
                table: "LineParts");

            migrationBuilder.DropIndex(
                name: "IX_Arrivals_ContainerNumber",
                table: "Arrivals");

            migrationBuilder.DropIndex(
                name: "IX_Arrivals_SiteId_Planned",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "Planning",
                table: "Sites");

            migrationBuilder.DropColumn(
                name: "Skills",
                table: "People");

            migrationBuilder.DropColumn(
                name: "Approvals",
                table: "Orders");

            migrationBuilder.DropColumn(
                name: "Note",
                table: "OrderLines");

            migrationBuilder.DropColumn(
                name: "Coming",
                table: "LineParts");

            migrationBuilder.DropColumn(
                name: "InDraft",
                table: "LineParts");

            migrationBuilder.DropColumn(
                name: "VendorId",
                table: "LineParts");

            migrationBuilder.DropColumn(
                name: "Special",
                table: "Doors");

            migrationBuilder.DropColumn(
                name: "Vehicles",
                table: "Doors");

            migrationBuilder.DropColumn(
                name: "Booked",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "CalledAt",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "Crew",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "EmptyAt",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "GateOutAt",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "Handling",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "Overrulings",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "Papers",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "PlanVersion",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "PlannedAt",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "PlannedBy",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "SealFound",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "SealReason",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "UnitsAboard",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "UnloadedAt",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "Unplanned",
                table: "Arrivals");

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due",
                table: "LineParts",
                columns: new[] { "SiteId", "IsOpen", "Due" });
        }
    }
}
