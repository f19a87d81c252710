using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class HoldConditions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Before any table is made anew, so that what is copied is there.
            migrationBuilder.AddColumn<string>(
                name: "SignedBy",
                table: "HoldRules",
                type: "TEXT",
                nullable: true);

            migrationBuilder.Sql("UPDATE HoldRules SET SignedBy = NULLIF(By, '')");

            migrationBuilder.AddColumn<string>(
                name: "Besides",
                table: "HoldRules",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.DropColumn(
                name: "By",
                table: "HoldRules");

            migrationBuilder.DropForeignKey(
                name: "FK_Attachments_Arrivals_ArrivalId",
                table: "Attachments");

            migrationBuilder.AddColumn<string>(
                name: "Decision",
                table: "Holds",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Besides",
                table: "Holds",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            migrationBuilder.AlterColumn<int>(
                name: "ArrivalId",
                table: "Attachments",
                type: "INTEGER",
                nullable: true,
                oldClrType: typeof(int),
                oldType: "INTEGER");

            migrationBuilder.AddColumn<int>(
                name: "HoldId",
                table: "Attachments",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Kind",
                table: "Attachments",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Attachments_HoldId",
                table: "Attachments",
                column: "HoldId");

            migrationBuilder.AddForeignKey(
                name: "FK_Attachments_Arrivals_ArrivalId",
                table: "Attachments",
                column: "ArrivalId",
                principalTable: "Arrivals",
                principalColumn: "Id");

            migrationBuilder.AddForeignKey(
                name: "FK_Attachments_Holds_HoldId",
                table: "Attachments",
                column: "HoldId",
                principalTable: "Holds",
                principalColumn: "Id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Attachments_Arrivals_ArrivalId",
                table: "Attachments");

            migrationBuilder.DropForeignKey(
                name: "FK_Attachments_Holds_HoldId",
                table: "Attachments");

            migrationBuilder.DropIndex(
                name: "IX_Attachments_HoldId",
                table: "Attachments");

            migrationBuilder.DropColumn(
                name: "Decision",
                table: "Holds");

            migrationBuilder.DropColumn(
                name: "Besides",
                table: "Holds");

            migrationBuilder.AddColumn<string>(
                name: "By",
                table: "HoldRules",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.Sql("UPDATE HoldRules SET By = IFNULL(SignedBy, '')");

            migrationBuilder.DropColumn(
                name: "SignedBy",
                table: "HoldRules");

            migrationBuilder.DropColumn(
                name: "HoldId",
                table: "Attachments");

            migrationBuilder.DropColumn(
                name: "Kind",
                table: "Attachments");

            migrationBuilder.DropColumn(
                name: "Besides",
                table: "HoldRules");

            migrationBuilder.AlterColumn<int>(
                name: "ArrivalId",
                table: "Attachments",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0,
                oldClrType: typeof(int),
                oldType: "INTEGER",
                oldNullable: true);

            migrationBuilder.AddForeignKey(
                name: "FK_Attachments_Arrivals_ArrivalId",
                table: "Attachments",
                column: "ArrivalId",
                principalTable: "Arrivals",
                principalColumn: "Id",
                onDelete: ReferentialAction.Cascade);
        }
    }
}
