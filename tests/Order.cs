using System.Security.Cryptography;
using System.Text;
using Xunit.Sdk;
using Xunit.v3;

[assembly: TestCollectionOrderer(typeof(MudRoom.Tests.Order))]
[assembly: TestClassOrderer(typeof(MudRoom.Tests.Order))]
[assembly: TestMethodOrderer(typeof(MudRoom.Tests.Order))]
[assembly: TestCaseOrderer(typeof(MudRoom.Tests.Order))]

namespace MudRoom.Tests;

/// <summary>
/// The order of the tests follows from their names alone, so that it is the same on every machine and in every folder (the
/// runner's own order follows from the path of the assembly). MUDROOM_TEST_ORDER names another order: tests share a demo, and
/// none may need another one's leavings, which two or three orders bring to light.
/// </summary>
public sealed class Order : ITestCollectionOrderer, ITestClassOrderer, ITestMethodOrderer, ITestCaseOrderer
{
    static readonly string named = Environment.GetEnvironmentVariable("MUDROOM_TEST_ORDER") ?? "";

    public IReadOnlyCollection<T> OrderTestCollections<T>(IReadOnlyCollection<T> testCollections)
        where T : ITestCollection => By(testCollections, c => c.TestCollectionDisplayName);

    public IReadOnlyCollection<T?> OrderTestClasses<T>(IReadOnlyCollection<T?> testClasses)
        where T : notnull, ITestClass => By(testClasses, c => c?.TestClassName);

    public IReadOnlyCollection<T?> OrderTestMethods<T>(IReadOnlyCollection<T?> testMethods)
        where T : notnull, ITestMethod => By(testMethods, m => m?.MethodName);

    public IReadOnlyCollection<T> OrderTestCases<T>(IReadOnlyCollection<T> testCases)
        where T : notnull, ITestCase => By(testCases, c => c.TestCaseDisplayName);

    static List<T> By<T>(IEnumerable<T> tests, Func<T, string?> name) => [.. tests.OrderBy(t => Rank(name(t)), StringComparer.Ordinal)];

    static string? Rank(string? name) =>
        named.Length == 0 ? name : Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(named + name)));
}
