using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class DoorSettings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "PackageType",
                table: "Units",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "AsideReason",
                table: "TallyEntries",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "FromPaper",
                table: "TallyEntries",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "Weight",
                table: "TallyEntries",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Door",
                table: "Sites",
                type: "TEXT",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<long>(
                name: "InvoicedAt",
                table: "Receipts",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "PackageType",
                table: "PackLevels",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "BatchPattern",
                table: "Items",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "CatchWeight",
                table: "Items",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Marks",
                table: "Items",
                type: "TEXT",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<long>(
                name: "WeightTolerance",
                table: "Items",
                type: "INTEGER",
                nullable: false,
                defaultValue: 10000000L);

            migrationBuilder.AddColumn<byte[]>(
                name: "ActId",
                table: "Attachments",
                type: "BLOB",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "PartId",
                table: "Attachments",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "ItemPictures",
                columns: table => new
                {
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    MediaType = table.Column<string>(type: "TEXT", nullable: false),
                    Content = table.Column<byte[]>(type: "BLOB", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ItemPictures", x => x.ItemId);
                    table.ForeignKey(
                        name: "FK_ItemPictures_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "NumberBlocks",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Kind = table.Column<int>(type: "INTEGER", nullable: false),
                    Device = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<long>(type: "INTEGER", nullable: false),
                    To = table.Column<long>(type: "INTEGER", nullable: false),
                    GivenAt = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NumberBlocks", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "OutworkNotes",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    Order = table.Column<string>(type: "TEXT", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    Treatment = table.Column<string>(type: "TEXT", nullable: false),
                    Sent = table.Column<long>(type: "INTEGER", nullable: false),
                    Back = table.Column<long>(type: "INTEGER", nullable: false),
                    Lost = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    IsOpen = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OutworkNotes", x => x.Id);
                    table.ForeignKey(
                        name: "FK_OutworkNotes_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "PrintJobs",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Printer = table.Column<string>(type: "TEXT", nullable: false),
                    Title = table.Column<string>(type: "TEXT", nullable: false),
                    Sscc = table.Column<string>(type: "TEXT", nullable: true),
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    Lines = table.Column<string>(type: "TEXT", nullable: false),
                    Banner = table.Column<string>(type: "TEXT", nullable: true),
                    PackageType = table.Column<string>(type: "TEXT", nullable: false),
                    Size = table.Column<string>(type: "TEXT", nullable: false),
                    Copies = table.Column<int>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    State = table.Column<int>(type: "INTEGER", nullable: false),
                    Error = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PrintJobs", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "SecondCounts",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    First = table.Column<long>(type: "INTEGER", nullable: false),
                    AskedBy = table.Column<string>(type: "TEXT", nullable: false),
                    AskedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    Second = table.Column<long>(type: "INTEGER", nullable: true),
                    CountedBy = table.Column<string>(type: "TEXT", nullable: true),
                    CountedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    State = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SecondCounts", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SecondCounts_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "VendorReturns",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ReceiptId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    PartId = table.Column<int>(type: "INTEGER", nullable: true),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    Invoiced = table.Column<bool>(type: "INTEGER", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    LedgerSeq = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_VendorReturns", x => x.Id);
                    table.ForeignKey(
                        name: "FK_VendorReturns_Receipts_ReceiptId",
                        column: x => x.ReceiptId,
                        principalTable: "Receipts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_Serial",
                table: "Ledger",
                column: "Serial",
                filter: "\"Serial\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Attachments_ActId",
                table: "Attachments",
                column: "ActId");

            migrationBuilder.CreateIndex(
                name: "IX_NumberBlocks_SiteId_Kind_Device",
                table: "NumberBlocks",
                columns: new[] { "SiteId", "Kind", "Device" });

            migrationBuilder.CreateIndex(
                name: "IX_OutworkNotes_ItemId",
                table: "OutworkNotes",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_OutworkNotes_SiteId_IsOpen",
                table: "OutworkNotes",
                columns: new[] { "SiteId", "IsOpen" });

            migrationBuilder.CreateIndex(
                name: "IX_OutworkNotes_SiteId_Number",
                table: "OutworkNotes",
                columns: new[] { "SiteId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_PrintJobs_SiteId_State",
                table: "PrintJobs",
                columns: new[] { "SiteId", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_SecondCounts_ArrivalId",
                table: "SecondCounts",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_VendorReturns_ReceiptId",
                table: "VendorReturns",
                column: "ReceiptId");

            migrationBuilder.CreateIndex(
                name: "IX_VendorReturns_SiteId_Number",
                table: "VendorReturns",
                columns: new[] { "SiteId", "Number" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ItemPictures");

            migrationBuilder.DropTable(
                name: "NumberBlocks");

            migrationBuilder.DropTable(
                name: "OutworkNotes");

            migrationBuilder.DropTable(
                name: "PrintJobs");

            migrationBuilder.DropTable(
                name: "SecondCounts");

            migrationBuilder.DropTable(
                name: "VendorReturns");

            migrationBuilder.DropIndex(
                name: "IX_Ledger_Serial",
                table: "Ledger");

            migrationBuilder.DropIndex(
                name: "IX_Attachments_ActId",
                table: "Attachments");

            migrationBuilder.DropColumn(
                name: "PackageType",
                table: "Units");

            migrationBuilder.DropColumn(
                name: "AsideReason",
                table: "TallyEntries");

            migrationBuilder.DropColumn(
                name: "FromPaper",
                table: "TallyEntries");

            migrationBuilder.DropColumn(
                name: "Weight",
                table: "TallyEntries");

            migrationBuilder.DropColumn(
                name: "Door",
                table: "Sites");

            migrationBuilder.DropColumn(
                name: "InvoicedAt",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "PackageType",
                table: "PackLevels");

            migrationBuilder.DropColumn(
                name: "BatchPattern",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "CatchWeight",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "Marks",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "WeightTolerance",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "ActId",
                table: "Attachments");

            migrationBuilder.DropColumn(
                name: "PartId",
                table: "Attachments");
        }
    }
}
