using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Site;

/// <summary>
/// Takes set-up files in: read and checked before the write desk, written in one act where they are short, else in slices: the set-up is
/// seen as it was until
/// all of it is there, opening stock is hidden until then.
/// </summary>
public sealed class SetUpImporting(
    Staging staging,
    ActRunner runner,
    SetUpStore setUps,
    TimeProvider clock,
    ImportProgress progress,
    ILayHolds holds,
    IDbContextFactory<MudRoomDb> contexts,
    IOptions<JsonOptions> json
) : IStagedKind
{
    /// <summary>Nothing refuses it any more once it was checked: no other act changes the set-up meanwhile, and the book is only added
    /// to.</summary>
    public bool CanBeTakenAway => false;

    /// <summary>Takes a file in; refused whole when anything in it is wrong.</summary>
    /// <returns>The answer as JSON, or the refusal.</returns>
    public async Task<Outcome<string>> Run(ActFrom from, SetUpFileRequest request)
    {
        var opened = request.Opened();
        return opened.Refused(out var unread)
            ? unread
            : await staging.Once(from, $"{request.Kind} {opened.Value.Text}", () => Import(from, opened.Value));
    }

    async Task<Outcome<string>> Import(ActFrom from, SetUpFileRequest request)
    {
        progress.Say(from.Id, 0.02, "Reading the file.");
        var setUp = await setUps.Current();
        var file = SetUpFile.Read(request, setUp.Sites[from.SiteCode]);
        // What is kept of the act tells nothing of the passwords that were in the file.
        var asked =
            request.Kind == SetUpKind.People && file.Faults.Count == 0 ? request with { Text = file.WithoutPasswords().Text() } : request;
        if (await runner.DoneBefore(from, SetUpFiles.Path, asked) is { } done)
            return done;
        var looked = await Look(from, file, setUp);
        if (looked.Refused(out var faulty))
            return faulty;
        file = file.WithHashes();
        // Doors are few, and their hours lie in one row.
        if (file.Rows.Count < Staging.FewLines || file.Kind == SetUpKind.Doors)
            return await InOneAct(from, asked, file);
        return await staging.Write(from, file.Kind != SetUpKind.Stock, setUp => Prepare(from, asked, file, setUp))
            ?? await Import(from, request);
    }

    async Task<Outcome<SetUpFileAnswer>> Look(ActFrom from, SetUpFile file, SetUp setUp)
    {
        await using var db = await contexts.CreateDbContextAsync();
        var work = await SetUpFiles.Look(db, file, setUp, setUp.Sites[from.SiteCode], from.Person, clock.GetUtcNow());
        return SetUpFiles.Faulty(file) is { } faulty ? faulty : work.Answer();
    }

    /// <summary>Looks once more, now that nobody else changes the set-up.</summary>
    async Task<Outcome<(StagedImport Stage, IStagedWork Work)>> Prepare(ActFrom from, SetUpFileRequest asked, SetUpFile file, SetUp setUp)
    {
        var looked = await Look(from, file, setUp);
        if (looked.Refused(out var faulty))
            return faulty;
        var stage = new StagedImport
        {
            SiteId = setUp.Sites[from.SiteCode].Id,
            PersonId = from.Person.Id,
            PersonName = from.Person.Name,
            Device = from.Device,
            Kind = Enum.Parse<StageKind>(file.Kind.ToString()),
            ActId = from.Id,
            Name = file.Name,
            Text = file.Kind == SetUpKind.People ? file.Text() : asked.Text!,
            Answer = JsonSerializer.Serialize(looked.Value, json.Value.SerializerOptions),
            At = clock.GetUtcNow(),
        };
        return (stage, (IStagedWork)new SetUpSlices(this, from, asked, file, setUp));
    }

    public Task<IStagedWork?> Resume(ActFrom from, StagedImport begun, SetUp setUp)
    {
        var request = new SetUpFileRequest(Enum.Parse<SetUpKind>(begun.Kind.ToString()), begun.Name, begun.Text);
        var file = SetUpFile.Read(request, setUp.Sites[from.SiteCode]);
        var asked = request.Kind == SetUpKind.People ? request with { Text = file.WithoutPasswords().Text() } : request;
        return Task.FromResult<IStagedWork?>(new SetUpSlices(this, from, asked, file, setUp));
    }

    Task<Outcome<string>> InOneAct(ActFrom from, SetUpFileRequest asked, SetUpFile file) =>
        runner.Run<SetUpFileRequest, SetUpFileAnswer>(from, SetUpFiles.Path, asked, async (act, _) =>
        {
            // What was there when it was looked at may have changed since.
            var work = await SetUpFiles.Look(act.Db, file, act.SetUp, act.Site, act.Person, act.Now);
            if (SetUpFiles.Faulty(file) is { } faulty)
                return faulty;
            await Save(act.Db, work);
            foreach (var fact in work.Kept)
                act.Write(fact);
            await Open(act, work.Stock);
            return Written(act, file, work.Answer());
        });

    Task<Outcome<string>> EndOfSlices(ActFrom from, SetUpFileRequest asked, SetUpFile file, StagedImport stage) =>
        runner.Run<SetUpFileRequest, SetUpFileAnswer>(from, SetUpFiles.Path, asked, async (act, _) =>
        {
            var work = new SetUpWork(file, act.SetUp, act.Site, act.Person, act.Now);
            await work.Lay(
                act.Db,
                stage
                    .Left.Split(',', StringSplitOptions.RemoveEmptyEntries)
                    .Select(place => file.Rows[int.Parse(place, CultureInfo.InvariantCulture)])
            );
            await act.Db.SaveChangesAsync();
            await Open(act, work.Stock);
            await Staging.MarkWhole(act.Db, stage);
            act.ShowsStock = file.Kind == SetUpKind.Stock;
            return Written(act, file, JsonSerializer.Deserialize<SetUpFileAnswer>(stage.Answer, json.Value.SerializerOptions)!);
        });

    /// <summary>Without a first password nobody can sign in until the administrator gives one: what lies there is drawn and thrown
    /// away.</summary>
    static readonly string nobodyKnows = SignInAccounts.Hash(Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)));

    static async Task Save(MudRoomDb db, SetUpWork work)
    {
        await db.SaveChangesAsync();
        foreach (var (person, hash) in work.NewPeople)
            db.Add(SignInAccounts.With(person, hash ?? nobodyKnows, mustChange: true));
        await db.SaveChangesAsync();
    }

    /// <summary>Opening stock becomes entries of the book; what stood held has a hold that can be lifted.</summary>
    async Task Open(Act act, IReadOnlyList<OpeningLine> stock)
    {
        await OpeningLine.GiveLots(act.Db, stock, act.Now);
        foreach (var line in stock)
        {
            line.Write(act.Book, act.Site.Id, act.Doer);
            if (line.IsHeld)
                await holds.Lay(
                    act,
                    line.Item,
                    line.Lot!,
                    line.Quantity,
                    $"Was {act.Standings.Word(line.Standing)} when the book began.",
                    act.Standings[line.HeldAs]
                );
        }
    }

    static SetUpParts PartsOf(SetUpKind kind) =>
        kind switch
        {
            SetUpKind.Items or SetUpKind.Packs => SetUpParts.Items,
            // Its codes for items lie with the items.
            SetUpKind.Vendors => SetUpParts.Vendors | SetUpParts.Items,
            SetUpKind.Doors => SetUpParts.Doors | SetUpParts.Settings,
            SetUpKind.Bins => SetUpParts.Bins,
            SetUpKind.People => SetUpParts.People,
            SetUpKind.Stock => SetUpParts.None,
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };

    static SetUpFileAnswer Written(Act act, SetUpFile file, SetUpFileAnswer answer)
    {
        act.Write(new SetUpFileTaken(act.Site.Code, file.Kind.ToString(), answer.New, answer.Changed, file.Name));
        act.Changes(PartsOf(file.Kind));
        act.Touch("site", "house", "shelf", "book");
        return answer;
    }

    /// <summary>The lines of a file in slices.</summary>
    sealed class SetUpSlices(SetUpImporting importing, ActFrom from, SetUpFileRequest asked, SetUpFile file, SetUp setUp) : IStagedWork
    {
        /// <summary>Each is looked up, compared and tracked: that takes longer than the bare rows of an order.</summary>
        const int LinesInSlice = 50;

        readonly WarehouseSite site = setUp.Sites[from.SiteCode];

        public int Count => file.Rows.Count;
        public string Of => "lines";

        public async Task<(int, IReadOnlyList<int>)> WriteSlice(WriteScope scope, StagedImport stage, int done)
        {
            var slice = file.Rows.Skip(done).Take(LinesInSlice).ToArray();
            var work = new SetUpWork(file, setUp, site, from.Person, stage.At);
            await work.Lay(scope.Db, slice);
            if (SetUpFiles.Faulty(file) is { } faulty)
                throw new InvalidOperationException($"A file that was checked has a fault: {faulty.Sentence}");
            await Save(scope.Db, work);
            await OpeningLine.GiveLots(scope.Db, work.Stock, stage.At);
            scope.Book.Import = stage.Id;
            var doer = new Doer(stage.At, stage.PersonId, stage.PersonName, stage.Device, stage.ActId);
            foreach (var fact in work.Kept)
                scope.Book.Write(site.Id, doer, fact);
            var left = new List<int>();
            foreach (var line in work.Stock)
                if (line.IsHeld || scope.Book.IsSeen(line.OfLot, line.Place))
                    left.Add(done + Array.IndexOf(slice, line.Row));
                else
                    line.Write(scope.Book, site.Id, doer);
            return (done + slice.Length, left);
        }

        public Task<Outcome<string>> End(StagedImport stage) => importing.EndOfSlices(from, asked, file, stage);
    }
}
