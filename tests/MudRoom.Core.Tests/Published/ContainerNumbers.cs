using MudRoom.Core.Identification;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// Container numbers against python3-stdnum 1.18, is-container 2.0.0 and container-validator 1.1.0, which agree but for category X
/// (ISO 6346 knows U, J and Z).
/// </summary>
public sealed class ContainerNumbers
{
    public static TheoryData<string, bool> Numbers
    {
        get
        {
            var data = new TheoryData<string, bool>();
            foreach (
                var cells in File.ReadLines(Path.Combine(AppContext.BaseDirectory, "Published", "data", "iso6346_check_digits.csv"))
                    .Where(l => l.Length > 0 && l[0] != '#' && !l.StartsWith("number,", StringComparison.Ordinal))
                    .Select(l => l.Split(','))
            )
                data.Add(cells[0], cells[2] == "valid");
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Numbers))]
    public void Verdicts_agree(string number, bool valid) => Assert.Equal(valid, ContainerNumber.Read(number).Refusal is null);

    [Fact]
    public void A_wrong_one_is_refused_with_the_digit_it_should_have() =>
        Assert.Contains("should be 3", ContainerNumber.Read("CSQU 305438 9").Refusal!.Sentence);
}
