namespace MudRoom.Core.Out;

/// <summary>Why a message is not sent as somebody wants it.</summary>
public static class OutRefusals
{
    public static readonly RefusalKind AddressWrong = new(
        "address-wrong",
        "… is no mail address.",
        "Type one address, as name@firm.example."
    );

    public static readonly RefusalKind MailEmpty = new("mail-empty", "A mail has a subject of one line, at most … characters.", "Type it.");

    public static readonly RefusalKind MessageArrived = new(
        "message-arrived",
        "The message of … has arrived.",
        "There is nothing to do.",
        409
    );
}
