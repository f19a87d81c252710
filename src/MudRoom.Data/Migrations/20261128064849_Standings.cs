using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class Standings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "Chosen",
                table: "Holds",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Standings",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Standing = table.Column<int>(type: "INTEGER", nullable: false),
                    Word = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<int>(type: "INTEGER", nullable: false),
                    Lets = table.Column<int>(type: "INTEGER", nullable: false),
                    Places = table.Column<string>(type: "TEXT", nullable: false),
                    Rank = table.Column<int>(type: "INTEGER", nullable: false),
                    Shape = table.Column<int>(type: "INTEGER", nullable: false),
                    Colour = table.Column<int>(type: "INTEGER", nullable: false),
                    Available = table.Column<bool>(type: "INTEGER", nullable: false),
                    Retired = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Standings", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Standings_Sites_SiteId",
                        column: x => x.SiteId,
                        principalTable: "Sites",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Statements_SiteId_Asks",
                table: "Statements",
                columns: new[] { "SiteId", "Asks" },
                filter: "\"SettledAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Standings_SiteId_Standing",
                table: "Standings",
                columns: new[] { "SiteId", "Standing" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Standings");

            migrationBuilder.DropIndex(
                name: "IX_Statements_SiteId_Asks",
                table: "Statements");

            migrationBuilder.DropColumn(
                name: "Chosen",
                table: "Holds");
        }
    }
}
