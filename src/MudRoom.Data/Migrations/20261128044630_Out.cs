using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class Out : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "SettledAt",
                table: "Receipts",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "OutMessages",
                columns: table => new
                {
                    Id = table.Column<byte[]>(type: "BLOB", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Kind = table.Column<int>(type: "INTEGER", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    State = table.Column<int>(type: "INTEGER", nullable: false),
                    Tries = table.Column<int>(type: "INTEGER", nullable: false),
                    NextTry = table.Column<long>(type: "INTEGER", nullable: false),
                    Said = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OutMessages", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Lots_ReceiptId",
                table: "Lots",
                column: "ReceiptId");

            migrationBuilder.CreateIndex(
                name: "IX_OutMessages_SiteId_At",
                table: "OutMessages",
                columns: new[] { "SiteId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_OutMessages_SiteId_State_At",
                table: "OutMessages",
                columns: new[] { "SiteId", "State", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_OutMessages_State_NextTry_At",
                table: "OutMessages",
                columns: new[] { "State", "NextTry", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_OutMessages_Subject",
                table: "OutMessages",
                column: "Subject");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "OutMessages");

            migrationBuilder.DropIndex(
                name: "IX_Lots_ReceiptId",
                table: "Lots");

            migrationBuilder.DropColumn(
                name: "SettledAt",
                table: "Receipts");
        }
    }
}
