using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Out;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;

namespace MudRoom.Data;

/// <summary>The database: Core's classes as they are, mapped room by room in the folder Rooms.</summary>
public sealed class MudRoomDb(DbContextOptions<MudRoomDb> options) : IdentityUserContext<SignInAccount, int>(options)
{
    public DbSet<WarehouseSite> Sites => Set<WarehouseSite>();
    public DbSet<Person> People => Set<Person>();
    public DbSet<Vendor> Vendors => Set<Vendor>();
    public DbSet<Item> Items => Set<Item>();
    public DbSet<Bin> Bins => Set<Bin>();
    public DbSet<DockDoor> Doors => Set<DockDoor>();
    public DbSet<Order> Orders => Set<Order>();
    public DbSet<OrderLine> OrderLines => Set<OrderLine>();
    public DbSet<LinePart> LineParts => Set<LinePart>();
    public DbSet<Arrival> Arrivals => Set<Arrival>();
    public DbSet<ManifestLine> ManifestLines => Set<ManifestLine>();
    public DbSet<EtaChange> EtaChanges => Set<EtaChange>();
    public DbSet<Attachment> Attachments => Set<Attachment>();
    public DbSet<OrderChange> OrderChanges => Set<OrderChange>();
    public DbSet<Promise> Promises => Set<Promise>();
    public DbSet<DespatchAdvice> DespatchAdvices => Set<DespatchAdvice>();
    public DbSet<AdvisedUnit> AdvisedUnits => Set<AdvisedUnit>();
    public DbSet<AdviceDifference> AdviceDifferences => Set<AdviceDifference>();
    public DbSet<ImportedFile> ImportedFiles => Set<ImportedFile>();
    public DbSet<StagedImport> StagedImports => Set<StagedImport>();
    public DbSet<RosterEntry> Roster => Set<RosterEntry>();
    public DbSet<YardSpot> YardSpots => Set<YardSpot>();
    public DbSet<TallyEntry> TallyEntries => Set<TallyEntry>();
    public DbSet<Receipt> Receipts => Set<Receipt>();
    public DbSet<Discrepancy> Discrepancies => Set<Discrepancy>();
    public DbSet<TallyQuestion> TallyQuestions => Set<TallyQuestion>();
    public DbSet<SecondCount> SecondCounts => Set<SecondCount>();
    public DbSet<PrintJob> PrintJobs => Set<PrintJob>();
    public DbSet<NumberBlock> NumberBlocks => Set<NumberBlock>();
    public DbSet<VendorReturn> VendorReturns => Set<VendorReturn>();
    public DbSet<OutworkNote> OutworkNotes => Set<OutworkNote>();
    public DbSet<ItemPicture> ItemPictures => Set<ItemPicture>();
    public DbSet<InspectionPlan> InspectionPlans => Set<InspectionPlan>();
    public DbSet<PlanVersion> PlanVersions => Set<PlanVersion>();
    public DbSet<SeverityRow> SeverityWords => Set<SeverityRow>();
    public DbSet<Gauge> Gauges => Set<Gauge>();
    public DbSet<InspectionRule> InspectionRules => Set<InspectionRule>();
    public DbSet<Inspection> Inspections => Set<Inspection>();
    public DbSet<Hold> Holds => Set<Hold>();
    public DbSet<HoldRule> HoldRules => Set<HoldRule>();
    public DbSet<Recall> Recalls => Set<Recall>();
    public DbSet<BinRefusal> BinRefusals => Set<BinRefusal>();
    public DbSet<StoreTask> Tasks => Set<StoreTask>();
    public DbSet<SourceBatch> SourceBatches => Set<SourceBatch>();
    public DbSet<Batch> Batches => Set<Batch>();
    public DbSet<LogisticUnit> Units => Set<LogisticUnit>();
    public DbSet<Lot> Lots => Set<Lot>();
    public DbSet<StandingDefinition> Standings => Set<StandingDefinition>();
    public DbSet<Statement> Statements => Set<Statement>();
    public DbSet<Reservation> Reservations => Set<Reservation>();
    public DbSet<Balance> Balances => Set<Balance>();
    public DbSet<OutMessage> OutMessages => Set<OutMessage>();
    public DbSet<EntryReference> EntryReferences => Set<EntryReference>();
    public DbSet<LedgerEntry> Ledger => Set<LedgerEntry>();
    public DbSet<DoneAct> DoneActs => Set<DoneAct>();
    public DbSet<Note> Notes => Set<Note>();
    public DbSet<RoomSettings> RoomSettings => Set<RoomSettings>();

    string? file;

    HiddenImport HiddenNow => HiddenImport.Of(file ??= Path.GetFullPath(Database.GetDbConnection().DataSource));

    /// <summary>The import whose rows are left out of what is asked; asked anew with every question.</summary>
    int Hidden => HiddenNow.Import;

    /// <summary>Its act, whose entries are left out.</summary>
    Guid HiddenAct => HiddenNow.Act;

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder) =>
        Storage.Conventions(configurationBuilder);

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.Entity<SignInAccount>().HasIndex(a => a.Badge).IsUnique();
        builder.ApplyConfigurationsFromAssembly(typeof(MudRoomDb).Assembly);
        builder.Entity<Order>().HasQueryFilter(o => o.ImportId != Hidden);
        builder.Entity<LinePart>().HasQueryFilter(p => p.ImportId != Hidden);
        builder.Entity<Balance>().HasQueryFilter(b => b.ImportId != Hidden);
        builder.Entity<LedgerEntry>().HasQueryFilter(e => e.ActId != HiddenAct);
    }
}

/// <summary>An act that was done, by the id its device gave it: the same id again gets the same answer and does nothing.</summary>
public sealed class DoneAct
{
    public required Guid Id { get; init; }
    public required string Path { get; init; }
    public required int PersonId { get; init; }
    public required DateTimeOffset At { get; init; }
    public required string Answer { get; init; }

    /// <summary>SHA-256 of what was asked, without passwords: the same id with other content is another act. Null for acts of earlier
    /// versions.</summary>
    public string? Content { get; init; }
}

/// <summary>A file that was imported: the same content again changes nothing.</summary>
public sealed class ImportedFile
{
    public int Id { get; init; }

    /// <summary>SHA-256 of its content, in hex.</summary>
    public required string Hash { get; init; }
    public required string Name { get; init; }

    /// <summary>What it was: CSV orders, UBL Order, EDIFACT DESADV …</summary>
    public required string Kind { get; init; }

    /// <summary>What it did, in a sentence.</summary>
    public required string Sentence { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
}

/// <summary>A small fact about the installation itself: the demo's clock, the version.</summary>
public sealed class Note
{
    public required string Name { get; init; }
    public required string Value { get; set; }
}
