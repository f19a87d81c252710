using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class ListsOfDueParts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due_Coming",
                table: "LineParts");

            migrationBuilder.DropIndex(
                name: "IX_LineParts_SiteId_IsOpen_VendorId_Due",
                table: "LineParts");

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due_Coming_ImportId",
                table: "LineParts",
                columns: new[] { "SiteId", "IsOpen", "Due", "Coming", "ImportId" });

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_SiteId_IsOpen_VendorId_Due_Coming_ImportId",
                table: "LineParts",
                columns: new[] { "SiteId", "IsOpen", "VendorId", "Due", "Coming", "ImportId" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due_Coming_ImportId",
                table: "LineParts");

            migrationBuilder.DropIndex(
                name: "IX_LineParts_SiteId_IsOpen_VendorId_Due_Coming_ImportId",
                table: "LineParts");

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due_Coming",
                table: "LineParts",
                columns: new[] { "SiteId", "IsOpen", "Due", "Coming" });

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_SiteId_IsOpen_VendorId_Due",
                table: "LineParts",
                columns: new[] { "SiteId", "IsOpen", "VendorId", "Due" });
        }
    }
}
