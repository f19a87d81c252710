namespace MudRoom.Core.Book;

/// <summary>What Book refuses.</summary>
public static class BookRefusals { }
