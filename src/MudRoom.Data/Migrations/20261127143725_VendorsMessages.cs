using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class VendorsMessages : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Arrivals_AdviceNumber",
                table: "Arrivals");

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnWhy",
                table: "Arrivals",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Gln",
                table: "Vendors",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Arrival",
                table: "StagedImports",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AlterColumn<string>(
                name: "CompanyPrefix",
                table: "Sites",
                type: "TEXT",
                nullable: true,
                oldClrType: typeof(string),
                oldType: "TEXT");

            migrationBuilder.AddColumn<int>(
                name: "DateForm",
                table: "Sites",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "Gln",
                table: "Sites",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "OwnNumbers",
                table: "Sites",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Cancellation",
                table: "Orders",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Before",
                table: "Arrivals",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "WithdrawnAt",
                table: "Arrivals",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "AdviceId",
                table: "AdvisedUnits",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "AdviceId",
                table: "AdviceDifferences",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "DespatchAdvices",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    MadeArrival = table.Column<bool>(type: "INTEGER", nullable: false),
                    TakenAt = table.Column<long>(type: "INTEGER", nullable: false),
                    EndedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_DespatchAdvices", x => x.Id);
                    table.ForeignKey(
                        name: "FK_DespatchAdvices_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_DespatchAdvices_Vendors_VendorId",
                        column: x => x.VendorId,
                        principalTable: "Vendors",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Arrivals_Number",
                table: "Arrivals",
                column: "Number");

            migrationBuilder.CreateIndex(
                name: "IX_AdvisedUnits_AdviceId",
                table: "AdvisedUnits",
                column: "AdviceId");

            migrationBuilder.CreateIndex(
                name: "IX_DespatchAdvices_ArrivalId",
                table: "DespatchAdvices",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_DespatchAdvices_Number_VendorId",
                table: "DespatchAdvices",
                columns: new[] { "Number", "VendorId" });

            migrationBuilder.CreateIndex(
                name: "IX_DespatchAdvices_VendorId",
                table: "DespatchAdvices",
                column: "VendorId");

            // An arrival had one advice, by its number alone: each becomes a row of its own, of the vendor whose goods it announced.
            migrationBuilder.Sql("""
                INSERT INTO "DespatchAdvices" ("ArrivalId", "VendorId", "Number", "MadeArrival", "TakenAt")
                SELECT a."Id", (SELECT p."VendorId" FROM "ManifestLines" m JOIN "LineParts" p ON p."Id" = m."PartId" WHERE m."ArrivalId" = a."Id" LIMIT 1), a."AdviceNumber", 1, a."Booked"
                FROM "Arrivals" a
                WHERE a."AdviceNumber" IS NOT NULL AND EXISTS (SELECT 1 FROM "ManifestLines" m WHERE m."ArrivalId" = a."Id");
                """);
            migrationBuilder.Sql("""UPDATE "AdvisedUnits" SET "AdviceId" = COALESCE((SELECT d."Id" FROM "DespatchAdvices" d WHERE d."ArrivalId" = "AdvisedUnits"."ArrivalId"), 0);""");
            migrationBuilder.Sql("""UPDATE "AdviceDifferences" SET "AdviceId" = COALESCE((SELECT d."Id" FROM "DespatchAdvices" d WHERE d."ArrivalId" = "AdviceDifferences"."ArrivalId"), 0);""");
            migrationBuilder.DropColumn(
                name: "AdviceNumber",
                table: "Arrivals");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "DespatchAdvices");

            migrationBuilder.DropIndex(
                name: "IX_Arrivals_Number",
                table: "Arrivals");

            migrationBuilder.DropIndex(
                name: "IX_AdvisedUnits_AdviceId",
                table: "AdvisedUnits");

            migrationBuilder.DropColumn(
                name: "Gln",
                table: "Vendors");

            migrationBuilder.DropColumn(
                name: "Arrival",
                table: "StagedImports");

            migrationBuilder.DropColumn(
                name: "DateForm",
                table: "Sites");

            migrationBuilder.DropColumn(
                name: "Gln",
                table: "Sites");

            migrationBuilder.DropColumn(
                name: "OwnNumbers",
                table: "Sites");

            migrationBuilder.DropColumn(
                name: "Cancellation",
                table: "Orders");

            migrationBuilder.DropColumn(
                name: "Before",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "WithdrawnAt",
                table: "Arrivals");

            migrationBuilder.DropColumn(
                name: "AdviceId",
                table: "AdvisedUnits");

            migrationBuilder.DropColumn(
                name: "AdviceId",
                table: "AdviceDifferences");

            migrationBuilder.DropColumn(
                name: "WithdrawnWhy",
                table: "Arrivals");

            migrationBuilder.AddColumn<string>(
                name: "AdviceNumber",
                table: "Arrivals",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AlterColumn<string>(
                name: "CompanyPrefix",
                table: "Sites",
                type: "TEXT",
                nullable: false,
                defaultValue: "",
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldNullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Arrivals_AdviceNumber",
                table: "Arrivals",
                column: "AdviceNumber",
                filter: "\"AdviceNumber\" IS NOT NULL");
        }
    }
}
