using MudRoom.Core.Out;

namespace MudRoom.Core.Tests.Out;

/// <summary>At least once, under the same id, with growing pauses; in the end a person looks.</summary>
public sealed class OutMessageTests
{
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);

    static OutMessage New() =>
        new()
        {
            Id = Guid.NewGuid(),
            SiteId = 1,
            Kind = OutKind.ReceiptPosted,
            Subject = "R-0001",
            Body = "{}",
            At = now,
        };

    /// <summary>What a message tells of is typed by people: orders have slashes, and worse may be tried.</summary>
    [Theory]
    [InlineData("R-0001", "R-0001")]
    [InlineData("PO/26/4", "PO_26_4")]
    [InlineData("../../etc/passwd", "______etc_passwd")]
    [InlineData("/etc/x", "_etc_x")]
    [InlineData("a\\b:c\nd", "a_b_c_d")]
    [InlineData("Größe", "Gr__e")]
    public void Its_file_lies_in_its_folder_whatever_it_tells_of(string subject, string name)
    {
        var id = Guid.Parse("0195d0b4-0000-7000-8000-000000000001");
        var file = OutMessage.FileName(OutKind.Mail, subject, id);
        Assert.Equal($"{name}-{id:N}.eml", file);
        Assert.Equal(file, Path.GetFileName(file));
        Assert.Equal(Path.GetFullPath("/out/LM"), Path.GetDirectoryName(Path.GetFullPath(Path.Combine("/out/LM", file))));
        Assert.EndsWith(".json", OutMessage.FileName(OutKind.ReceiptPosted, subject, id), StringComparison.Ordinal);
    }

    [Fact]
    public void The_pause_after_a_failed_try_doubles_to_an_hour_at_most() =>
        Assert.Equal(
            [5, 10, 20, 40, 80, 160, 320, 640, 1280, 2560, 3600, 3600],
            Enumerable.Range(1, 12).Select(tries => (int)OutMessage.Pause(tries).TotalSeconds)
        );

    [Fact]
    public void It_is_tried_until_it_was_tried_often_enough_and_then_a_person_looks()
    {
        var message = New();
        for (var tries = 1; tries < OutMessage.MostTries; tries++)
        {
            message.Fail(now, "no room");
            Assert.Equal((OutState.Waiting, now + OutMessage.Pause(tries)), (message.State, message.NextTry));
        }

        message.Fail(now, "no room");
        Assert.Equal((OutState.Failed, "no room"), (message.State, message.Said));
        Assert.Null(message.TryAgain());
        Assert.Equal((OutState.Waiting, 0), (message.State, message.Tries));
    }

    [Fact]
    public void What_has_arrived_is_not_sent_again()
    {
        var message = New();
        message.HandOver();
        Assert.Equal((OutState.Sent, 1, ""), (message.State, message.Tries, message.Said));
        message.Acknowledge();
        message.HandOver();
        Assert.Equal(OutState.Acknowledged, message.State);
        Assert.Equal("message-arrived", message.TryAgain()?.Code);
    }
}
