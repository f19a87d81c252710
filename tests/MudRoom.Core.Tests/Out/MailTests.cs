using MudRoom.Core.Out;

namespace MudRoom.Core.Tests.Out;

/// <summary>A mail goes to one address, of the shape that people write. Lengths: RFC 5321, 4.5.3.1.3.</summary>
public sealed class MailTests
{
    static string? Code(string to, string subject = "Recall RC-0001", string text = "Keep it apart.") =>
        new Mail(to, subject, text).Fault?.Kind.Code;

    [Theory]
    [InlineData("stores@hollin.example")]
    [InlineData("o'neil+goods@a-b.hollin.example")]
    public void One_address_is_taken(string to) => Assert.Null(Code(to));

    [Theory]
    [InlineData("")]
    [InlineData("stores")]
    [InlineData("@hollin.example")]
    [InlineData("stores@hollin")]
    [InlineData("stores@.example")]
    [InlineData("stores@hollin..example")]
    [InlineData("a@hollin.example,b@hollin.example")]
    [InlineData("accounts,stores@hollin.example")]
    [InlineData("accounts;stores@hollin.example")]
    [InlineData("Stores <stores@hollin.example>")]
    [InlineData("stores(north)@hollin.example")]
    [InlineData("\"stores\"@hollin.example")]
    [InlineData("stores@hollin.example\nBcc: all@hollin.example")]
    [InlineData("the stores@hollin.example")]
    public void A_list_a_name_or_a_line_break_is_none(string to) => Assert.Equal("address-wrong", Code(to));

    [Fact]
    public void An_address_is_at_most_as_long_as_mail_carries()
    {
        var domain = "@" + string.Join('.', Enumerable.Repeat(new string('d', 60), 4)) + ".example";
        Assert.Null(Code(new string('n', Mail.MostOfAddress - domain.Length) + domain));
        Assert.Equal("address-wrong", Code(new string('n', Mail.MostOfAddress - domain.Length + 1) + domain));
    }

    [Theory]
    [InlineData("", "text")]
    [InlineData("two\nlines", "text")]
    [InlineData("subject", " ")]
    public void It_has_a_subject_of_one_line_and_a_text(string subject, string text) =>
        Assert.Equal("mail-empty", Code("stores@hollin.example", subject, text));
}
