using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MudRoom.Data.Migrations
{
    /// <inheritdoc />
    public partial class First : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "AspNetUsers",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    UserName = table.Column<string>(type: "TEXT", maxLength: 256, nullable: true),
                    NormalizedUserName = table.Column<string>(type: "TEXT", maxLength: 256, nullable: true),
                    Email = table.Column<string>(type: "TEXT", maxLength: 256, nullable: true),
                    NormalizedEmail = table.Column<string>(type: "TEXT", maxLength: 256, nullable: true),
                    EmailConfirmed = table.Column<bool>(type: "INTEGER", nullable: false),
                    PasswordHash = table.Column<string>(type: "TEXT", nullable: true),
                    SecurityStamp = table.Column<string>(type: "TEXT", nullable: true),
                    ConcurrencyStamp = table.Column<string>(type: "TEXT", nullable: true),
                    PhoneNumber = table.Column<string>(type: "TEXT", nullable: true),
                    PhoneNumberConfirmed = table.Column<bool>(type: "INTEGER", nullable: false),
                    TwoFactorEnabled = table.Column<bool>(type: "INTEGER", nullable: false),
                    LockoutEnd = table.Column<long>(type: "INTEGER", nullable: true),
                    LockoutEnabled = table.Column<bool>(type: "INTEGER", nullable: false),
                    AccessFailedCount = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUsers", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "DoneActs",
                columns: table => new
                {
                    Id = table.Column<byte[]>(type: "BLOB", nullable: false),
                    Path = table.Column<string>(type: "TEXT", nullable: false),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    Answer = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_DoneActs", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "HoldRules",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Category = table.Column<string>(type: "TEXT", nullable: false),
                    Origin = table.Column<string>(type: "TEXT", nullable: true),
                    Days = table.Column<int>(type: "INTEGER", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_HoldRules", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "InspectionPlans",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Level = table.Column<int>(type: "INTEGER", nullable: false),
                    AqlMajor = table.Column<long>(type: "INTEGER", nullable: false),
                    AqlMinor = table.Column<long>(type: "INTEGER", nullable: false),
                    SamplingUnit = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_InspectionPlans", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Ledger",
                columns: table => new
                {
                    Seq = table.Column<long>(type: "INTEGER", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Kind = table.Column<int>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: false),
                    PersonName = table.Column<string>(type: "TEXT", nullable: false),
                    Device = table.Column<string>(type: "TEXT", nullable: false),
                    ActId = table.Column<byte[]>(type: "BLOB", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Sentence = table.Column<string>(type: "TEXT", nullable: false),
                    Undoes = table.Column<long>(type: "INTEGER", nullable: true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: true),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    UnitId = table.Column<int>(type: "INTEGER", nullable: true),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: true),
                    FromAccount = table.Column<int>(type: "INTEGER", nullable: true),
                    FromBinId = table.Column<int>(type: "INTEGER", nullable: true),
                    FromStanding = table.Column<int>(type: "INTEGER", nullable: true),
                    ToAccount = table.Column<int>(type: "INTEGER", nullable: true),
                    ToBinId = table.Column<int>(type: "INTEGER", nullable: true),
                    ToStanding = table.Column<int>(type: "INTEGER", nullable: true),
                    PreviousHash = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Ledger", x => x.Seq);
                });

            migrationBuilder.CreateTable(
                name: "Notes",
                columns: table => new
                {
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Value = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Notes", x => x.Name);
                });

            migrationBuilder.CreateTable(
                name: "People",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    SignInName = table.Column<string>(type: "TEXT", nullable: false),
                    Roles = table.Column<string>(type: "TEXT", nullable: false),
                    Sites = table.Column<string>(type: "TEXT", nullable: false),
                    Active = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_People", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Sites",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    TimeZone = table.Column<string>(type: "TEXT", nullable: false),
                    HorizonDays = table.Column<int>(type: "INTEGER", nullable: false),
                    HasAddresses = table.Column<bool>(type: "INTEGER", nullable: false),
                    CompanyPrefix = table.Column<string>(type: "TEXT", nullable: false),
                    SsccExtension = table.Column<int>(type: "INTEGER", nullable: false),
                    NextSscc = table.Column<long>(type: "INTEGER", nullable: false),
                    LastNumbers = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Sites", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Units",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Sscc = table.Column<string>(type: "TEXT", nullable: false),
                    PackName = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Units", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Vendors",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Country = table.Column<string>(type: "TEXT", nullable: false),
                    ContactName = table.Column<string>(type: "TEXT", nullable: true),
                    Telephone = table.Column<string>(type: "TEXT", nullable: true),
                    Mail = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Vendors", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserClaims",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    UserId = table.Column<int>(type: "INTEGER", nullable: false),
                    ClaimType = table.Column<string>(type: "TEXT", nullable: true),
                    ClaimValue = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUserClaims", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AspNetUserClaims_AspNetUsers_UserId",
                        column: x => x.UserId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserLogins",
                columns: table => new
                {
                    LoginProvider = table.Column<string>(type: "TEXT", nullable: false),
                    ProviderKey = table.Column<string>(type: "TEXT", nullable: false),
                    ProviderDisplayName = table.Column<string>(type: "TEXT", nullable: true),
                    UserId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUserLogins", x => new { x.LoginProvider, x.ProviderKey });
                    table.ForeignKey(
                        name: "FK_AspNetUserLogins_AspNetUsers_UserId",
                        column: x => x.UserId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserTokens",
                columns: table => new
                {
                    UserId = table.Column<int>(type: "INTEGER", nullable: false),
                    LoginProvider = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Value = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUserTokens", x => new { x.UserId, x.LoginProvider, x.Name });
                    table.ForeignKey(
                        name: "FK_AspNetUserTokens_AspNetUsers_UserId",
                        column: x => x.UserId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Characteristics",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Class = table.Column<int>(type: "INTEGER", nullable: false),
                    Unit = table.Column<string>(type: "TEXT", nullable: true),
                    Nominal = table.Column<long>(type: "INTEGER", nullable: true),
                    Lower = table.Column<long>(type: "INTEGER", nullable: true),
                    Upper = table.Column<long>(type: "INTEGER", nullable: true),
                    PassWord = table.Column<string>(type: "TEXT", nullable: false),
                    FailWord = table.Column<string>(type: "TEXT", nullable: false),
                    Instruction = table.Column<string>(type: "TEXT", nullable: false),
                    InspectionPlanId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Characteristics", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Characteristics_InspectionPlans_InspectionPlanId",
                        column: x => x.InspectionPlanId,
                        principalTable: "InspectionPlans",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Items",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Category = table.Column<string>(type: "TEXT", nullable: false),
                    BaseUnit = table.Column<string>(type: "TEXT", nullable: false),
                    Step = table.Column<long>(type: "INTEGER", nullable: false),
                    NeedsBatch = table.Column<bool>(type: "INTEGER", nullable: false),
                    NeedsSourceBatch = table.Column<bool>(type: "INTEGER", nullable: false),
                    NeedsDates = table.Column<bool>(type: "INTEGER", nullable: false),
                    NeedsOrigin = table.Column<bool>(type: "INTEGER", nullable: false),
                    NeedsSerial = table.Column<bool>(type: "INTEGER", nullable: false),
                    BatchPrefix = table.Column<string>(type: "TEXT", nullable: false),
                    ShelfLifeDays = table.Column<int>(type: "INTEGER", nullable: true),
                    MinimumRemainingDays = table.Column<int>(type: "INTEGER", nullable: true),
                    RulingDate = table.Column<int>(type: "INTEGER", nullable: false),
                    OverPercent = table.Column<long>(type: "INTEGER", nullable: false),
                    OverCap = table.Column<long>(type: "INTEGER", nullable: true),
                    StorageClass = table.Column<int>(type: "INTEGER", nullable: false),
                    Mass = table.Column<long>(type: "INTEGER", nullable: false),
                    Volume = table.Column<long>(type: "INTEGER", nullable: false),
                    LongestSide = table.Column<long>(type: "INTEGER", nullable: false),
                    PickRateClass = table.Column<int>(type: "INTEGER", nullable: false),
                    HomeZone = table.Column<string>(type: "TEXT", nullable: false),
                    InspectionPlanId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Items", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Items_InspectionPlans_InspectionPlanId",
                        column: x => x.InspectionPlanId,
                        principalTable: "InspectionPlans",
                        principalColumn: "Id");
                });

            migrationBuilder.CreateTable(
                name: "Arrivals",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Vehicle = table.Column<string>(type: "TEXT", nullable: false),
                    Plate = table.Column<string>(type: "TEXT", nullable: true),
                    Haulier = table.Column<string>(type: "TEXT", nullable: true),
                    ContainerNumber = table.Column<string>(type: "TEXT", nullable: true),
                    Seal = table.Column<string>(type: "TEXT", nullable: true),
                    Planned = table.Column<long>(type: "INTEGER", nullable: false),
                    Eta = table.Column<long>(type: "INTEGER", nullable: true),
                    PlannedDoorId = table.Column<int>(type: "INTEGER", nullable: true),
                    YardSpot = table.Column<string>(type: "TEXT", nullable: true),
                    GateInAt = table.Column<long>(type: "INTEGER", nullable: true),
                    AtDoorAt = table.Column<long>(type: "INTEGER", nullable: true),
                    DoorId = table.Column<int>(type: "INTEGER", nullable: true),
                    CountedInAt = table.Column<long>(type: "INTEGER", nullable: true),
                    State = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Arrivals", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Arrivals_Sites_SiteId",
                        column: x => x.SiteId,
                        principalTable: "Sites",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Doors",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    Equipment = table.Column<string>(type: "TEXT", nullable: false),
                    X = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Doors", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Doors_Sites_SiteId",
                        column: x => x.SiteId,
                        principalTable: "Sites",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Orders",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<int>(type: "INTEGER", nullable: false),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    OrderDate = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    State = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Orders", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Orders_Vendors_VendorId",
                        column: x => x.VendorId,
                        principalTable: "Vendors",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Holds",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    Reason = table.Column<int>(type: "INTEGER", nullable: false),
                    Sentence = table.Column<string>(type: "TEXT", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false),
                    Until = table.Column<long>(type: "INTEGER", nullable: true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: true),
                    InspectionId = table.Column<int>(type: "INTEGER", nullable: true),
                    LaidBy = table.Column<string>(type: "TEXT", nullable: false),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    LiftedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    LiftedBy = table.Column<string>(type: "TEXT", nullable: true),
                    LiftedNote = table.Column<string>(type: "TEXT", nullable: true),
                    IsOpen = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Holds", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Holds_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Inspections",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    PlanId = table.Column<int>(type: "INTEGER", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false),
                    Severity = table.Column<int>(type: "INTEGER", nullable: false),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    State = table.Column<int>(type: "INTEGER", nullable: false),
                    LotSize = table.Column<long>(type: "INTEGER", nullable: false),
                    Sample = table.Column<string>(type: "TEXT", nullable: true),
                    Verdict = table.Column<int>(type: "INTEGER", nullable: true),
                    SignedBy = table.Column<string>(type: "TEXT", nullable: true),
                    SignedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Comment = table.Column<string>(type: "TEXT", nullable: true),
                    SheetHash = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Inspections", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Inspections_InspectionPlans_PlanId",
                        column: x => x.PlanId,
                        principalTable: "InspectionPlans",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Inspections_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Jobs",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    FromBinId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    UnitId = table.Column<int>(type: "INTEGER", nullable: true),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    Standing = table.Column<int>(type: "INTEGER", nullable: false),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    TargetBinId = table.Column<int>(type: "INTEGER", nullable: true),
                    Trail = table.Column<string>(type: "TEXT", nullable: true),
                    State = table.Column<int>(type: "INTEGER", nullable: false),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: false),
                    PersonName = table.Column<string>(type: "TEXT", nullable: false),
                    TakenAt = table.Column<long>(type: "INTEGER", nullable: false),
                    DoneAt = table.Column<long>(type: "INTEGER", nullable: true),
                    GoodsScannedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Jobs", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Jobs_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "PackLevels",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Numerator = table.Column<long>(type: "INTEGER", nullable: false),
                    Denominator = table.Column<long>(type: "INTEGER", nullable: false),
                    Gtin = table.Column<string>(type: "TEXT", nullable: true),
                    IsUnit = table.Column<bool>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PackLevels", x => x.Id);
                    table.ForeignKey(
                        name: "FK_PackLevels_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "SourceBatches",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    Production = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    ProductionMonthOnly = table.Column<bool>(type: "INTEGER", nullable: false),
                    BestBefore = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    Expiry = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    DateWorkedOut = table.Column<bool>(type: "INTEGER", nullable: false),
                    Origin = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SourceBatches", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SourceBatches_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "VendorCodes",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_VendorCodes", x => x.Id);
                    table.ForeignKey(
                        name: "FK_VendorCodes_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_VendorCodes_Vendors_VendorId",
                        column: x => x.VendorId,
                        principalTable: "Vendors",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Discrepancies",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    PartId = table.Column<int>(type: "INTEGER", nullable: true),
                    Kind = table.Column<int>(type: "INTEGER", nullable: false),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    Sentence = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    ActId = table.Column<byte[]>(type: "BLOB", nullable: true),
                    TakenBack = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Discrepancies", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Discrepancies_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Receipts",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    DeliveryNote = table.Column<string>(type: "TEXT", nullable: false),
                    PostedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    PostedBy = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Receipts", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Receipts_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "TallyEntries",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    PartId = table.Column<int>(type: "INTEGER", nullable: true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    VendorId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    UnitId = table.Column<int>(type: "INTEGER", nullable: true),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    PackName = table.Column<string>(type: "TEXT", nullable: false),
                    Packs = table.Column<long>(type: "INTEGER", nullable: false),
                    Standing = table.Column<int>(type: "INTEGER", nullable: false),
                    BinId = table.Column<int>(type: "INTEGER", nullable: false),
                    Aside = table.Column<int>(type: "INTEGER", nullable: true),
                    Over = table.Column<long>(type: "INTEGER", nullable: false),
                    Note = table.Column<string>(type: "TEXT", nullable: true),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    PersonId = table.Column<int>(type: "INTEGER", nullable: false),
                    PersonName = table.Column<string>(type: "TEXT", nullable: false),
                    Device = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    ActId = table.Column<byte[]>(type: "BLOB", nullable: false),
                    LedgerSeq = table.Column<long>(type: "INTEGER", nullable: false),
                    HoldId = table.Column<int>(type: "INTEGER", nullable: true),
                    InspectionId = table.Column<int>(type: "INTEGER", nullable: true),
                    ReceiptId = table.Column<int>(type: "INTEGER", nullable: true),
                    TakenBackAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TallyEntries", x => x.Id);
                    table.ForeignKey(
                        name: "FK_TallyEntries_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_TallyEntries_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Bins",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Address = table.Column<string>(type: "TEXT", nullable: false),
                    Zone = table.Column<string>(type: "TEXT", nullable: false),
                    Aisle = table.Column<string>(type: "TEXT", nullable: false),
                    Bay = table.Column<int>(type: "INTEGER", nullable: false),
                    Level = table.Column<int>(type: "INTEGER", nullable: false),
                    Function = table.Column<int>(type: "INTEGER", nullable: false),
                    StorageClass = table.Column<int>(type: "INTEGER", nullable: false),
                    MaxMass = table.Column<long>(type: "INTEGER", nullable: false),
                    MaxVolume = table.Column<long>(type: "INTEGER", nullable: false),
                    MaxLength = table.Column<long>(type: "INTEGER", nullable: false),
                    MixItems = table.Column<bool>(type: "INTEGER", nullable: false),
                    MixBatches = table.Column<bool>(type: "INTEGER", nullable: false),
                    Blocked = table.Column<bool>(type: "INTEGER", nullable: false),
                    X = table.Column<long>(type: "INTEGER", nullable: false),
                    Y = table.Column<long>(type: "INTEGER", nullable: false),
                    Height = table.Column<long>(type: "INTEGER", nullable: false),
                    DoorId = table.Column<int>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Bins", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Bins_Doors_DoorId",
                        column: x => x.DoorId,
                        principalTable: "Doors",
                        principalColumn: "Id");
                    table.ForeignKey(
                        name: "FK_Bins_Sites_SiteId",
                        column: x => x.SiteId,
                        principalTable: "Sites",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "OrderLines",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    OrderId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    Price = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OrderLines", x => x.Id);
                    table.ForeignKey(
                        name: "FK_OrderLines_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_OrderLines_Orders_OrderId",
                        column: x => x.OrderId,
                        principalTable: "Orders",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Finding",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    InspectionId = table.Column<int>(type: "INTEGER", nullable: false),
                    Piece = table.Column<int>(type: "INTEGER", nullable: false),
                    CharacteristicId = table.Column<int>(type: "INTEGER", nullable: false),
                    Value = table.Column<long>(type: "INTEGER", nullable: true),
                    Conforms = table.Column<bool>(type: "INTEGER", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Finding", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Finding_Inspections_InspectionId",
                        column: x => x.InspectionId,
                        principalTable: "Inspections",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Batches",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    Number = table.Column<string>(type: "TEXT", nullable: false),
                    SourceBatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    Expiry = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Batches", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Batches_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Batches_SourceBatches_SourceBatchId",
                        column: x => x.SourceBatchId,
                        principalTable: "SourceBatches",
                        principalColumn: "Id");
                });

            migrationBuilder.CreateTable(
                name: "LineParts",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    LineId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    Due = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Ordered = table.Column<long>(type: "INTEGER", nullable: false),
                    Received = table.Column<long>(type: "INTEGER", nullable: false),
                    ClosedShort = table.Column<bool>(type: "INTEGER", nullable: false),
                    WaitingQuantity = table.Column<long>(type: "INTEGER", nullable: false),
                    WaitingFor = table.Column<string>(type: "TEXT", nullable: true),
                    IsOpen = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LineParts", x => x.Id);
                    table.ForeignKey(
                        name: "FK_LineParts_OrderLines_LineId",
                        column: x => x.LineId,
                        principalTable: "OrderLines",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Balances",
                columns: table => new
                {
                    Id = table.Column<long>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    SiteId = table.Column<int>(type: "INTEGER", nullable: false),
                    BinId = table.Column<int>(type: "INTEGER", nullable: false),
                    ItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    BatchId = table.Column<int>(type: "INTEGER", nullable: true),
                    UnitId = table.Column<int>(type: "INTEGER", nullable: true),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    Standing = table.Column<int>(type: "INTEGER", nullable: false),
                    Quantity = table.Column<long>(type: "INTEGER", nullable: false),
                    Since = table.Column<long>(type: "INTEGER", nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Balances", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Balances_Batches_BatchId",
                        column: x => x.BatchId,
                        principalTable: "Batches",
                        principalColumn: "Id");
                    table.ForeignKey(
                        name: "FK_Balances_Bins_BinId",
                        column: x => x.BinId,
                        principalTable: "Bins",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Balances_Items_ItemId",
                        column: x => x.ItemId,
                        principalTable: "Items",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Balances_Units_UnitId",
                        column: x => x.UnitId,
                        principalTable: "Units",
                        principalColumn: "Id");
                });

            migrationBuilder.CreateTable(
                name: "ManifestLines",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    ArrivalId = table.Column<int>(type: "INTEGER", nullable: false),
                    PartId = table.Column<int>(type: "INTEGER", nullable: false),
                    Expected = table.Column<long>(type: "INTEGER", nullable: false),
                    Counted = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ManifestLines", x => x.Id);
                    table.ForeignKey(
                        name: "FK_ManifestLines_Arrivals_ArrivalId",
                        column: x => x.ArrivalId,
                        principalTable: "Arrivals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_ManifestLines_LineParts_PartId",
                        column: x => x.PartId,
                        principalTable: "LineParts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Arrivals_DoorId",
                table: "Arrivals",
                column: "DoorId");

            migrationBuilder.CreateIndex(
                name: "IX_Arrivals_SiteId_Number",
                table: "Arrivals",
                columns: new[] { "SiteId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Arrivals_SiteId_State_Planned",
                table: "Arrivals",
                columns: new[] { "SiteId", "State", "Planned" });

            migrationBuilder.CreateIndex(
                name: "IX_AspNetUserClaims_UserId",
                table: "AspNetUserClaims",
                column: "UserId");

            migrationBuilder.CreateIndex(
                name: "IX_AspNetUserLogins_UserId",
                table: "AspNetUserLogins",
                column: "UserId");

            migrationBuilder.CreateIndex(
                name: "EmailIndex",
                table: "AspNetUsers",
                column: "NormalizedEmail");

            migrationBuilder.CreateIndex(
                name: "UserNameIndex",
                table: "AspNetUsers",
                column: "NormalizedUserName",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Balances_BatchId",
                table: "Balances",
                column: "BatchId");

            migrationBuilder.CreateIndex(
                name: "IX_Balances_BinId",
                table: "Balances",
                column: "BinId");

            migrationBuilder.CreateIndex(
                name: "IX_Balances_ItemId",
                table: "Balances",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Balances_Key",
                table: "Balances",
                column: "Key",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Balances_Serial",
                table: "Balances",
                column: "Serial");

            migrationBuilder.CreateIndex(
                name: "IX_Balances_SiteId_ItemId",
                table: "Balances",
                columns: new[] { "SiteId", "ItemId" });

            migrationBuilder.CreateIndex(
                name: "IX_Balances_UnitId",
                table: "Balances",
                column: "UnitId");

            migrationBuilder.CreateIndex(
                name: "IX_Batches_ItemId_Number",
                table: "Batches",
                columns: new[] { "ItemId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Batches_Number",
                table: "Batches",
                column: "Number");

            migrationBuilder.CreateIndex(
                name: "IX_Batches_SourceBatchId",
                table: "Batches",
                column: "SourceBatchId");

            migrationBuilder.CreateIndex(
                name: "IX_Bins_DoorId",
                table: "Bins",
                column: "DoorId");

            migrationBuilder.CreateIndex(
                name: "IX_Bins_SiteId_Address",
                table: "Bins",
                columns: new[] { "SiteId", "Address" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Characteristics_InspectionPlanId",
                table: "Characteristics",
                column: "InspectionPlanId");

            migrationBuilder.CreateIndex(
                name: "IX_Discrepancies_ActId",
                table: "Discrepancies",
                column: "ActId");

            migrationBuilder.CreateIndex(
                name: "IX_Discrepancies_ArrivalId",
                table: "Discrepancies",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_Doors_SiteId_Number",
                table: "Doors",
                columns: new[] { "SiteId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Finding_InspectionId_Piece_CharacteristicId",
                table: "Finding",
                columns: new[] { "InspectionId", "Piece", "CharacteristicId" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Holds_ItemId_BatchId",
                table: "Holds",
                columns: new[] { "ItemId", "BatchId" });

            migrationBuilder.CreateIndex(
                name: "IX_Holds_SiteId_IsOpen",
                table: "Holds",
                columns: new[] { "SiteId", "IsOpen" });

            migrationBuilder.CreateIndex(
                name: "IX_Holds_SiteId_Number",
                table: "Holds",
                columns: new[] { "SiteId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_ArrivalId_ItemId_BatchId",
                table: "Inspections",
                columns: new[] { "ArrivalId", "ItemId", "BatchId" });

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_ItemId",
                table: "Inspections",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_PlanId",
                table: "Inspections",
                column: "PlanId");

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_SiteId_Number",
                table: "Inspections",
                columns: new[] { "SiteId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Inspections_SiteId_State",
                table: "Inspections",
                columns: new[] { "SiteId", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_Items_Code",
                table: "Items",
                column: "Code",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Items_InspectionPlanId",
                table: "Items",
                column: "InspectionPlanId");

            migrationBuilder.CreateIndex(
                name: "IX_Jobs_ItemId",
                table: "Jobs",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Jobs_SiteId_State",
                table: "Jobs",
                columns: new[] { "SiteId", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_Jobs_TargetBinId_State",
                table: "Jobs",
                columns: new[] { "TargetBinId", "State" });

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_BatchId",
                table: "Ledger",
                column: "BatchId",
                filter: "\"BatchId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_ItemId",
                table: "Ledger",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_SiteId_At",
                table: "Ledger",
                columns: new[] { "SiteId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_SiteId_Subject",
                table: "Ledger",
                columns: new[] { "SiteId", "Subject" });

            migrationBuilder.CreateIndex(
                name: "IX_Ledger_UnitId",
                table: "Ledger",
                column: "UnitId",
                filter: "\"UnitId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_ItemId_IsOpen",
                table: "LineParts",
                columns: new[] { "ItemId", "IsOpen" });

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_LineId",
                table: "LineParts",
                column: "LineId");

            migrationBuilder.CreateIndex(
                name: "IX_LineParts_SiteId_IsOpen_Due",
                table: "LineParts",
                columns: new[] { "SiteId", "IsOpen", "Due" });

            migrationBuilder.CreateIndex(
                name: "IX_ManifestLines_ArrivalId_PartId",
                table: "ManifestLines",
                columns: new[] { "ArrivalId", "PartId" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_ManifestLines_PartId",
                table: "ManifestLines",
                column: "PartId");

            migrationBuilder.CreateIndex(
                name: "IX_OrderLines_ItemId",
                table: "OrderLines",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_OrderLines_OrderId_Number",
                table: "OrderLines",
                columns: new[] { "OrderId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Orders_Number",
                table: "Orders",
                column: "Number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Orders_VendorId",
                table: "Orders",
                column: "VendorId");

            migrationBuilder.CreateIndex(
                name: "IX_PackLevels_Gtin",
                table: "PackLevels",
                column: "Gtin");

            migrationBuilder.CreateIndex(
                name: "IX_PackLevels_ItemId",
                table: "PackLevels",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_People_SignInName",
                table: "People",
                column: "SignInName",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_ArrivalId",
                table: "Receipts",
                column: "ArrivalId");

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_SiteId_Number",
                table: "Receipts",
                columns: new[] { "SiteId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Receipts_VendorId_DeliveryNote",
                table: "Receipts",
                columns: new[] { "VendorId", "DeliveryNote" });

            migrationBuilder.CreateIndex(
                name: "IX_Sites_Code",
                table: "Sites",
                column: "Code",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_SourceBatches_ItemId_VendorId_Number",
                table: "SourceBatches",
                columns: new[] { "ItemId", "VendorId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_SourceBatches_Number",
                table: "SourceBatches",
                column: "Number");

            migrationBuilder.CreateIndex(
                name: "IX_TallyEntries_ActId",
                table: "TallyEntries",
                column: "ActId");

            migrationBuilder.CreateIndex(
                name: "IX_TallyEntries_ArrivalId_At",
                table: "TallyEntries",
                columns: new[] { "ArrivalId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_TallyEntries_ItemId",
                table: "TallyEntries",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_TallyEntries_ReceiptId",
                table: "TallyEntries",
                column: "ReceiptId",
                filter: "\"ReceiptId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Units_Sscc",
                table: "Units",
                column: "Sscc",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_VendorCodes_Code",
                table: "VendorCodes",
                column: "Code");

            migrationBuilder.CreateIndex(
                name: "IX_VendorCodes_ItemId",
                table: "VendorCodes",
                column: "ItemId");

            migrationBuilder.CreateIndex(
                name: "IX_VendorCodes_VendorId",
                table: "VendorCodes",
                column: "VendorId");

            migrationBuilder.CreateIndex(
                name: "IX_Vendors_Code",
                table: "Vendors",
                column: "Code",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "AspNetUserClaims");

            migrationBuilder.DropTable(
                name: "AspNetUserLogins");

            migrationBuilder.DropTable(
                name: "AspNetUserTokens");

            migrationBuilder.DropTable(
                name: "Balances");

            migrationBuilder.DropTable(
                name: "Characteristics");

            migrationBuilder.DropTable(
                name: "Discrepancies");

            migrationBuilder.DropTable(
                name: "DoneActs");

            migrationBuilder.DropTable(
                name: "Finding");

            migrationBuilder.DropTable(
                name: "HoldRules");

            migrationBuilder.DropTable(
                name: "Holds");

            migrationBuilder.DropTable(
                name: "Jobs");

            migrationBuilder.DropTable(
                name: "Ledger");

            migrationBuilder.DropTable(
                name: "ManifestLines");

            migrationBuilder.DropTable(
                name: "Notes");

            migrationBuilder.DropTable(
                name: "PackLevels");

            migrationBuilder.DropTable(
                name: "People");

            migrationBuilder.DropTable(
                name: "Receipts");

            migrationBuilder.DropTable(
                name: "TallyEntries");

            migrationBuilder.DropTable(
                name: "VendorCodes");

            migrationBuilder.DropTable(
                name: "AspNetUsers");

            migrationBuilder.DropTable(
                name: "Batches");

            migrationBuilder.DropTable(
                name: "Bins");

            migrationBuilder.DropTable(
                name: "Units");

            migrationBuilder.DropTable(
                name: "Inspections");

            migrationBuilder.DropTable(
                name: "LineParts");

            migrationBuilder.DropTable(
                name: "Arrivals");

            migrationBuilder.DropTable(
                name: "SourceBatches");

            migrationBuilder.DropTable(
                name: "Doors");

            migrationBuilder.DropTable(
                name: "OrderLines");

            migrationBuilder.DropTable(
                name: "Sites");

            migrationBuilder.DropTable(
                name: "Items");

            migrationBuilder.DropTable(
                name: "Orders");

            migrationBuilder.DropTable(
                name: "InspectionPlans");

            migrationBuilder.DropTable(
                name: "Vendors");
        }
    }
}
