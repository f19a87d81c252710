using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class DoorQuestions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Attributes",
                table: "SourceBatches",
                type: "TEXT",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<long>(
                name: "ReversedAt",
                table: "Receipts",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "OtherCodes",
                table: "PackLevels",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AddColumn<string>(
                name: "Attributes",
                table: "Items",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AlterColumn<int>(
                name: "ItemId",
                table: "Discrepancies",
                type: "INTEGER",
                nullable: true,
                oldClrType: typeof(int),
                oldType: "INTEGER");

            migrationBuilder.AddColumn<string>(
                name: "Badge",
                table: "AspNetUsers",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "PinHash",
                table: "AspNetUsers",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "TallyQuestions",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    Kind = table.Column<int>(type: "INTEGER", nullable: false),
                    Code = table.Column<string>(type: "TEXT", nullable: true),
                    Sentence = table.Column<string>(type: "TEXT", nullable: false),
                    Count = table.Column<string>(type: "TEXT", nullable: true),
                    Packs = table.Column<string>(type: "TEXT", nullable: false),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: false),
                    AskedBy = table.Column<string>(type: "TEXT", nullable: false),
                    AskedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    Answer = table.Column<string>(type: "TEXT", nullable: true),
                    AnsweredBy = table.Column<string>(type: "TEXT", nullable: true),
                    AnsweredAt = table.Column<long>(type: "INTEGER", nullable: true),
                    IsOpen = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TallyQuestions", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TallyQuestions_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_AspNetUsers_Badge",
                table: "AspNetUsers",
                column: "Badge",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_TallyQuestions_ArrivalId",
                table: "TallyQuestions",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_TallyQuestions_SiteId_IsOpen_AskedAt",
                table: "TallyQuestions",
                columns: new[] { "SiteId", "IsOpen", "AskedAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "TallyQuestions");

            migrationBuilder.DropIndex(
                name: "IX_AspNetUsers_Badge",
                table: "AspNetUsers");

            migrationBuilder.DropColumn(
                name: "Attributes",
                table: "SourceBatches");

            migrationBuilder.DropColumn(
                name: "ReversedAt",
                table: "Receipts");

            migrationBuilder.DropColumn(
                name: "OtherCodes",
                table: "PackLevels");

            migrationBuilder.DropColumn(
                name: "Attributes",
                table: "Items");

            migrationBuilder.DropColumn(
                name: "Badge",
                table: "AspNetUsers");

            migrationBuilder.DropColumn(
                name: "PinHash",
                table: "AspNetUsers");

            migrationBuilder.AlterColumn<int>(
                name: "ItemId",
                table: "Discrepancies",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0,
                oldClrType: typeof(int),
                oldType: "INTEGER",
                oldNullable: true);
        }
    }
}
