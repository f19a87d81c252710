using CsCheck;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Site;

public sealed class AttributeTests
{
    static readonly AttributeDefinition[] kinds =
    [
        new("Farm", AttributeKind.Text),
        new("Germination", AttributeKind.Number, Unit: "%", Least: 0, Most: 100),
        new("Picked", AttributeKind.Date),
        new("Colour", AttributeKind.Choice, Choices: ["red", "white"]),
        new("Organic", AttributeKind.YesNo),
    ];

    static Outcome<IReadOnlyDictionary<string, string>> Read(string name, string text) =>
        AttributeRules.Read(kinds, new Dictionary<string, string> { [name] = text });

    [Theory]
    [InlineData("Farm", " Hill Top ", "Hill Top")]
    [InlineData("Germination", "92.50", "92.5")]
    [InlineData("Picked", "2025-10-02", "2025-10-02")]
    [InlineData("Colour", "RED", "red")]
    [InlineData("Organic", "Yes", "yes")]
    public void A_value_is_kept_in_one_form(string name, string text, string kept) => Assert.Equal(kept, Read(name, text).Value[name]);

    [Theory]
    [InlineData("Germination", "120", "attribute-wrong")]
    [InlineData("Germination", "-1", "attribute-wrong")]
    [InlineData("Germination", "many", "not-a-number")]
    [InlineData("Colour", "blue", "attribute-wrong")]
    [InlineData("Organic", "perhaps", "attribute-wrong")]
    [InlineData("Height", "1", "attribute-unknown")]
    public void What_it_cannot_be_is_refused(string name, string text, string code) => Assert.Equal(code, Read(name, text).Refusal!.Code);

    [Fact]
    public void A_date_that_is_none_is_refused() => Assert.True(Read("Picked", "2025-02-30").Refusal is not null);

    [Fact]
    public void Twenty_four_attributes_are_asked_each_for_itself()
    {
        AttributeDefinition[] many =
        [
            .. Enumerable.Range(0, 24).Select(i => kinds[i % 5] with { Name = $"{kinds[i % 5].Name} {i}", Need = (AttributeNeed)(i % 3) }),
        ];
        var all = many.ToDictionary(
            d => d.Name,
            d =>
                d.Kind switch
                {
                    AttributeKind.Number => "7",
                    AttributeKind.Date => "2026-01-31",
                    AttributeKind.Choice => "white",
                    AttributeKind.YesNo => "no",
                    _ => "x",
                }
        );
        Assert.Equal(24, AttributeRules.Read(many, all).Value.Count);
        Assert.Empty(AttributeRules.Missing(many, all));
        Gen.Int[0, 23]
            .Array[0, 24]
            .Sample(gone =>
            {
                var names = gone.Select(i => many[i].Name).ToHashSet();
                var left = all.Where(a => !names.Contains(a.Key)).ToDictionary();
                Assert.Equal(
                    many.Where(d => d.Need == AttributeNeed.Required && names.Contains(d.Name)).Select(d => d.Name),
                    AttributeRules.Missing(many, left)
                );
                Assert.Equal(
                    many.Where(d => d.Need == AttributeNeed.Recommended && names.Contains(d.Name)).Select(d => d.Name),
                    AttributeRules.Advised(many, left)
                );
            });
    }
}
