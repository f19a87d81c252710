using SkiaSharp;

namespace MudRoom.Server.Labels;

/// <summary>The faces that prints and labels are set in; shipped with the application.</summary>
public static class Faces
{
    public static SKTypeface Words { get; } = Load("atkinson-hyperlegible-next-600.ttf");

    public static SKTypeface Codes { get; } = Load("atkinson-hyperlegible-mono-700.ttf");

    static SKTypeface Load(string name)
    {
        using var stream = typeof(Faces).Assembly.GetManifestResourceStream("MudRoom.Server.Labels." + name)!;
        return SKTypeface.FromStream(stream);
    }
}
