using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class CustomerReturns : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Return",
                table: "OrderLines",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Found",
                table: "Holds",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "OrderLineId",
                table: "Holds",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Holds_OrderLineId",
                table: "Holds",
                column: "OrderLineId",
                filter: "\"OrderLineId\" IS NOT NULL");

            migrationBuilder.AddForeignKey(
                name: "FK_Holds_OrderLines_OrderLineId",
                table: "Holds",
                column: "OrderLineId",
                principalTable: "OrderLines",
                principalColumn: "Id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Holds_OrderLines_OrderLineId",
                table: "Holds");

            migrationBuilder.DropIndex(
                name: "IX_Holds_OrderLineId",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "Return",
                table: "OrderLines");

            migrationBuilder.DropColumn(
                name: "Found",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "OrderLineId",
                table: "Holds");
        }
    }
}
