using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class HoldsAhead : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Because",
                table: "Holds",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "IsByHand",
                table: "HoldRules",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "OrderLine",
                table: "HoldRules",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "OrderLineId",
                table: "HoldRules",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_HoldRules_OrderLineId",
                table: "HoldRules",
                column: "OrderLineId");

            migrationBuilder.AddForeignKey(
                name: "FK_HoldRules_OrderLines_OrderLineId",
                table: "HoldRules",
                column: "OrderLineId",
                principalTable: "OrderLines",
                principalColumn: "Id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_HoldRules_OrderLines_OrderLineId",
                table: "HoldRules");

            migrationBuilder.DropIndex(
                name: "IX_HoldRules_OrderLineId",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "Because",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "IsByHand",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "OrderLine",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "OrderLineId",
                table: "HoldRules");
        }
    }
}
