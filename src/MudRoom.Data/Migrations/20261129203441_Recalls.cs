using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class Recalls : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "RecallId",
                table: "Holds",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Recalls",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Scope = table.Column<string>(type: "TEXT", nullable: false),
                    Says = table.Column<string>(type: "TEXT", nullable: false),
                    Why = table.Column<string>(type: "TEXT", nullable: false),
                    IsDrill = table.Column<bool>(type: "INTEGER", nullable: false),
                    Wants = table.Column<string>(type: "TEXT", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Missing = table.Column<string>(type: "TEXT", nullable: false),
                    Seen = table.Column<string>(type: "TEXT", nullable: false),
                    Told = table.Column<string>(type: "TEXT", nullable: false),
                    EndedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    EndedBy = table.Column<string>(type: "TEXT", nullable: true),
                    Ending = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Recalls", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Holds_RecallId",
                table: "Holds",
                column: "RecallId",
                filter: "\"RecallId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Recalls_EndedAt",
                table: "Recalls",
                column: "EndedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Recalls_Number",
                table: "Recalls",
                column: "Number",
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "FK_Holds_Recalls_RecallId",
                table: "Holds",
                column: "RecallId",
                principalTable: "Recalls",
                principalColumn: "Id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Holds_Recalls_RecallId",
                table: "Holds");

            migrationBuilder.DropTable(
                name: "Recalls");

            migrationBuilder.DropIndex(
                name: "IX_Holds_RecallId",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "RecallId",
                table: "Holds");
        }
    }
}
