using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class References : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Ledger_BatchId",
                table: "Ledger");

            migrationBuilder.DropIndex(
                name: "IX_Ledger_ItemId",
                table: "Ledger");

            migrationBuilder.DropIndex(
                name: "IX_Ledger_Serial",
                table: "Ledger");

            migrationBuilder.DropIndex(
                name: "IX_Ledger_SiteId_Subject",
                table: "Ledger");

            migrationBuilder.DropIndex(
                name: "IX_Ledger_UnitId",
                table: "Ledger");

            migrationBuilder.AddColumn<string>(
                name: "Fact",
                table: "Ledger",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            // Its key is all there is of it: no second tree beside the index.
            migrationBuilder.Sql(
                """
                CREATE TABLE "EntryReferences" (
                    "Kind" INTEGER NOT NULL,
                    "Id" TEXT NOT NULL,
                    "Seq" INTEGER NOT NULL,
                    "Derived" INTEGER NOT NULL,
                    CONSTRAINT "PK_EntryReferences" PRIMARY KEY ("Kind", "Id", "Seq")
                ) WITHOUT ROWID;
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "EntryReferences");

            migrationBuilder.DropColumn(
                name: "Fact",
                table: "Ledger");

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_BatchId",
                table: "Ledger",
                column: "BatchId",
                filter: "\"BatchId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_ItemId",
                table: "Ledger",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_Serial",
                table: "Ledger",
                column: "Serial",
                filter: "\"Serial\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_SiteId_Subject",
                table: "Ledger",
                columns: new[] { "SiteId", "Subject" });

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_UnitId",
                table: "Ledger",
                column: "UnitId",
                filter: "\"UnitId\" IS NOT NULL");
        }
    }
}
