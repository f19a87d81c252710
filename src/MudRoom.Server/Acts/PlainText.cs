using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Microsoft.OpenApi;

namespace MudRoom.Server.Acts;

/// <summary>
/// Texts as they come in: without control characters, and without signs that turn the direction of what follows. Line ends and tabs stay,
/// and so do
/// the separators of barcodes and messages (characters 28 to 31).
/// </summary>
sealed class PlainText : JsonConverter<string>
{
    public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.GetString() is { } text ? Clean(text) : null;

    public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) => writer.WriteStringValue(value);

    public override void WriteAsPropertyName(Utf8JsonWriter writer, string value, JsonSerializerOptions options) =>
        writer.WritePropertyName(value);

    public override string ReadAsPropertyName(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        Clean(reader.GetString()!);

    /// <summary>The text without what may not stand in it.</summary>
    public static string Clean(string text) => text.Any(IsUnwanted) ? string.Concat(text.Where(c => !IsUnwanted(c))) : text;

    /// <summary>Says in the OpenAPI document that a text is one: of a type with a converter of its own it knows nothing.</summary>
    public static void Describe(OpenApiSchema schema, JsonTypeInfo type, JsonPropertyInfo? property)
    {
        if (type.Type == typeof(string))
            schema.Type ??= JsonSchemaType.String | (property is { IsGetNullable: true } ? JsonSchemaType.Null : 0);
        else if (type is { Kind: JsonTypeInfoKind.Enumerable, ElementType: { } element } && element == typeof(string))
            schema.Items = new OpenApiSchema { Type = JsonSchemaType.String };
        else if (type is { Kind: JsonTypeInfoKind.Dictionary, ElementType: { } value } && value == typeof(string))
            schema.AdditionalProperties = new OpenApiSchema { Type = JsonSchemaType.String };
    }

    static bool IsUnwanted(char c) =>
        char.IsControl(c)
            ? c is not ('\n' or '\r' or '\t') and not (>= '\u001c' and <= '\u001f')
            : c is '\u061c' or '\u200e' or '\u200f' or (>= '\u202a' and <= '\u202e') or (>= '\u2066' and <= '\u2069')
                || char.GetUnicodeCategory(c) == UnicodeCategory.LineSeparator
                || char.GetUnicodeCategory(c) == UnicodeCategory.ParagraphSeparator;
}
