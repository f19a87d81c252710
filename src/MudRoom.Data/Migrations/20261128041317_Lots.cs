using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class Lots : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "LotId",
                table: "TallyEntries",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "HashVersion",
                table: "Ledger",
                type: "INTEGER",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<int>(
                name: "LotId",
                table: "Ledger",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "ToLotId",
                table: "Ledger",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "LotId",
                table: "Balances",
                type: "INTEGER",
                nullable: true);

            // The key of a balance ends with its lot; none has one yet.
            migrationBuilder.Sql("UPDATE \"Balances\" SET \"Key\" = \"Key\" || '|'");

            migrationBuilder.CreateTable(
                name: "Lots",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    Origin = table.Column<int>(type: "INTEGER", nullable: false),
                    OpenedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: true),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: true),
                    ReceiptId = table.Column<int>(type: "INTEGER", nullable: true),
                    ParentId = table.Column<int>(type: "INTEGER", nullable: true),
                    CountKey = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Lots", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Lots_Batches_BatchId",
                        column: x => x.BatchId,
                        principalTable: "Batches",
                        principalColumn: "Id");
                    table.ForeignKey(
                        name: "FK_Lots_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Statements",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    LotId = table.Column<int>(type: "INTEGER", nullable: false),
                    HoldId = table.Column<int>(type: "INTEGER", nullable: true),
                    InspectionId = table.Column<int>(type: "INTEGER", nullable: true),
                    Asks = table.Column<int>(type: "INTEGER", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false),
                    SettledAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Statements", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Statements_Lots_LotId",
                        column: x => x.LotId,
                        principalTable: "Lots",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Balances_LotId",
                table: "Balances",
                column: "LotId");

            migrationBuilder.CreateIndex(
                name: "IX_Lots_ArrivalId",
                table: "Lots",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_Lots_BatchId",
                table: "Lots",
                column: "BatchId");

            migrationBuilder.CreateIndex(
                name: "IX_Lots_CountKey",
                table: "Lots",
                column: "CountKey");

            migrationBuilder.CreateIndex(
                name: "IX_Lots_ItemId",
                table: "Lots",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Lots_ParentId",
                table: "Lots",
                column: "ParentId", filter: "\"ParentId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Statements_HoldId",
                table: "Statements",
                column: "HoldId");

            migrationBuilder.CreateIndex(
                name: "IX_Statements_InspectionId",
                table: "Statements",
                column: "InspectionId");

            migrationBuilder.CreateIndex(
                name: "IX_Statements_LotId",
                table: "Statements",
                column: "LotId");

            migrationBuilder.AddForeignKey(
                name: "FK_Balances_Lots_LotId",
                table: "Balances",
                column: "LotId",
                principalTable: "Lots",
                principalColumn: "Id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Balances_Lots_LotId",
                table: "Balances");

            migrationBuilder.DropTable(
                name: "Statements");

            migrationBuilder.DropTable(
                name: "Lots");

            migrationBuilder.DropIndex(
                name: "IX_Balances_LotId",
                table: "Balances");

            migrationBuilder.DropColumn(
                name: "LotId",
                table: "TallyEntries");

            migrationBuilder.DropColumn(
                name: "HashVersion",
                table: "Ledger");

            migrationBuilder.DropColumn(
                name: "LotId",
                table: "Ledger");

            migrationBuilder.DropColumn(
                name: "ToLotId",
                table: "Ledger");

            migrationBuilder.DropColumn(
                name: "LotId",
                table: "Balances");
        }
    }
}
