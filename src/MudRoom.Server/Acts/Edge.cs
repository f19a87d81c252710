using MudRoom.Core;
using MudRoom.Core.Identification;

namespace MudRoom.Server.Acts;

/// <summary>What is looked at before an endpoint runs: choices are among those there are, dates are of our times, bodies are no larger than
/// they need be.</summary>
static class Edge
{
    /// <summary>Largest body of an act that sends no file.</summary>
    public const long UsualBytes = 128 * 1024;

    /// <summary>Largest body of counts that waited and are sent together.</summary>
    public const long TogetherBytes = 1024 * 1024;

    /// <summary>Largest body of an act that sends a picture or paper: 8 MB in Base64.</summary>
    public const long PictureBytes = 12 * 1024 * 1024;

    /// <summary>Largest body of an act that sends a file of trade or set-up.</summary>
    public const long FileBytes = TooLarge.MostBytes;

    static readonly DateOnly first = new(GoodsDate.FirstYear, 1, 1),
        last = new(GoodsDate.LastYear, 1, 1);

    /// <summary>Refuses enumerations that are not defined, and dates that no list can be asked for.</summary>
    public static async ValueTask<object?> Check(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        foreach (var argument in context.Arguments)
            if (argument is not null && IsOutside(argument))
                return Problems.Of(
                    new Refusal(
                        HouseRefusals.Unreadable,
                        "A choice or a date of the request is none that can be asked for.",
                        "Look at what was sent."
                    )
                );
        return await next(context);
    }

    static bool IsOutside(object argument) =>
        argument switch
        {
            Enum choice => !Enum.IsDefined(choice.GetType(), choice),
            DateOnly date => date < first || date > last,
            DateTime time => time.Year < first.Year || time.Year > last.Year,
            // The fields of a question: [AsParameters] gives them as one record.
            _ when argument.GetType() is { IsValueType: false, Namespace: { } name } type
                    && name.StartsWith("MudRoom.Server", StringComparison.Ordinal)
                    && type.Name.EndsWith("Question", StringComparison.Ordinal) => type.GetProperties()
                .Select(p => p.GetValue(argument))
                .Any(value => value is Enum or DateOnly or DateTime && IsOutside(value)),
            _ => false,
        };
}
