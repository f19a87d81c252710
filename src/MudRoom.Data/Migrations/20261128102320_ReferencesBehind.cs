using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class ReferencesBehind : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Until now the table was written with each entry; from now on a note says up to which.
            migrationBuilder.Sql(
                """
                INSERT INTO "Notes" ("Name", "Value")
                SELECT 'references', CAST(MAX("Seq") AS TEXT) FROM "Ledger"
                WHERE EXISTS (SELECT 1 FROM "EntryReferences")
                HAVING MAX("Seq") IS NOT NULL;
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("DELETE FROM \"Notes\" WHERE \"Name\" = 'references'");
    }
}
