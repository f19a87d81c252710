using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class QuestionAct : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<byte[]>(
                name: "ActId",
                table: "TallyQuestions",
                type: "BLOB",
                nullable: false,
                defaultValue: new byte[16]);
            migrationBuilder.Sql("UPDATE TallyQuestions SET ActId = coalesce((SELECT d.ActId FROM Discrepancies d WHERE d.ArrivalId = TallyQuestions.ArrivalId AND d.At = TallyQuestions.AskedAt AND d.ActId IS NOT NULL LIMIT 1), ActId)");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "ActId",
                table: "TallyQuestions");
        }
    }
}
