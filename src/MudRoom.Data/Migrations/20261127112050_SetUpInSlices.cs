using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class SetUpInSlices : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn(
                name: "OrdersDone",
                table: "StagedImports",
                newName: "Done");

            migrationBuilder.AddColumn<string>(
                name: "Answer",
                table: "StagedImports",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "Kind",
                table: "StagedImports",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "Left",
                table: "StagedImports",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "ImportId",
                table: "Balances",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateIndex(
                name: "IX_StagedImports_ActId",
                table: "StagedImports",
                column: "ActId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_StagedImports_ActId",
                table: "StagedImports");

            migrationBuilder.DropColumn(
                name: "Answer",
                table: "StagedImports");

            migrationBuilder.DropColumn(
                name: "Kind",
                table: "StagedImports");

            migrationBuilder.DropColumn(
                name: "Left",
                table: "StagedImports");

            migrationBuilder.DropColumn(
                name: "ImportId",
                table: "Balances");

            migrationBuilder.RenameColumn(
                name: "Done",
                table: "StagedImports",
                newName: "OrdersDone");
        }
    }
}
