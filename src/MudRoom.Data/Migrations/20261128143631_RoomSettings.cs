using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class RoomSettings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "DecimalComma",
                table: "Sites",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateTable(
                name: "RoomSettings",
                columns: table => new
                {
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Room = table.Column<int>(type: "INTEGER", nullable: false),
                    Version = table.Column<int>(type: "INTEGER", nullable: false),
                    Value = table.Column<string>(type: "TEXT", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_RoomSettings", x => new { x.SiteId, x.Room, x.Version });
                    table.ForeignKey(
                        name: "FK_RoomSettings_Sites_SiteId",
                        column: x => x.SiteId,
                        principalTable: "Sites",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            // What lay in the site's row is the first version of the room's own settings: 1 is the door, 2 the road, 3 what others are told.
            const string since = "COALESCE((SELECT \"At\" FROM \"Ledger\" ORDER BY \"Seq\" DESC LIMIT 1), 0), 'upgrade'";
            const string into = "INSERT INTO \"RoomSettings\" (\"SiteId\", \"Room\", \"Version\", \"Value\", \"Since\", \"By\") SELECT \"Id\", ";
            const string set = " FROM \"Sites\" WHERE json_valid(\"Door\") AND json_valid(\"Planning\")";
            migrationBuilder.Sql(into + "1, 1, json_remove(\"Door\", '$.decimalComma', '$.receiptOut', '$.scanner'), " + since + set);
            migrationBuilder.Sql(into + "2, 1, \"Planning\", " + since + set);
            migrationBuilder.Sql(
                into + "3, 1, json_object('receipts', json_extract(\"Door\", '$.receiptOut')), " + since + set
                    + " AND json_extract(\"Door\", '$.receiptOut') IS NOT NULL"
            );
            migrationBuilder.RenameColumn(name: "Planning", table: "Sites", newName: "Scanner");
            migrationBuilder.Sql(
                """
                UPDATE "Sites" SET
                    "Scanner" = CASE WHEN json_valid("Door") THEN COALESCE(json_extract("Door", '$.scanner'), '{}') ELSE '{}' END,
                    "DecimalComma" = CASE WHEN json_valid("Door") THEN COALESCE(json_extract("Door", '$.decimalComma'), 0) ELSE 0 END
                """
            );
            migrationBuilder.Sql("ALTER TABLE \"Sites\" DROP COLUMN \"Door\"");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "RoomSettings");

            migrationBuilder.DropColumn(
                name: "DecimalComma",
                table: "Sites");

            migrationBuilder.RenameColumn(
                name: "Scanner",
                table: "Sites",
                newName: "Planning");

            migrationBuilder.AddColumn<string>(
                name: "Door",
                table: "Sites",
                type: "TEXT",
                nullable: false,
                defaultValue: "");
        }
    }
}
