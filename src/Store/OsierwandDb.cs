using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Contracts;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Store.Entities;

namespace Osierwand.Store;

/// <summary>The register, the rounds and the book of records in PostgreSQL.</summary>
public sealed class OsierwandDb(DbContextOptions<OsierwandDb> options) : IdentityDbContext<Person, IdentityRole<Guid>, Guid>(options)
{
    public DbSet<Client> Clients => Set<Client>();
    public DbSet<Site> Sites => Set<Site>();
    public DbSet<Round> Rounds => Set<Round>();
    public DbSet<PublicLink> PublicLinks => Set<PublicLink>();
    public DbSet<UserCheck> UserChecks => Set<UserCheck>();
    public DbSet<Photo> Photos => Set<Photo>();
    public DbSet<RoundItem> RoundItems => Set<RoundItem>();
    public DbSet<RoundDayRow> RoundDays => Set<RoundDayRow>();
    public DbSet<RegisterItem> Items => Set<RegisterItem>();
    public DbSet<QuarantineRow> QuarantineActs => Set<QuarantineRow>();
    public DbSet<HireMoveRow> HireMoves => Set<HireMoveRow>();
    public DbSet<HireItem> HireItems => Set<HireItem>();
    public DbSet<Inspection> Inspections => Set<Inspection>();
    public DbSet<Book> Books => Set<Book>();
    public DbSet<KitItem> Kit => Set<KitItem>();
    public DbSet<KitCheck> KitChecks => Set<KitCheck>();
    public DbSet<KitOfDay> KitsOfDay => Set<KitOfDay>();
    public DbSet<ProcedureRow> Procedures => Set<ProcedureRow>();
    public DbSet<ProcedureVersion> ProcedureVersions => Set<ProcedureVersion>();
    public DbSet<LookChange> LookChanges => Set<LookChange>();
    public DbSet<OutletCheck> OutletChecks => Set<OutletCheck>();
    public DbSet<ReviewFlag> ReviewFlags => Set<ReviewFlag>();
    public DbSet<ReviewedRecord> ReviewedRecords => Set<ReviewedRecord>();
    public DbSet<RoundSignature> RoundSignatures => Set<RoundSignature>();
    public DbSet<GroupDecision> GroupDecisions => Set<GroupDecision>();
    public DbSet<LabelPrint> LabelPrints => Set<LabelPrint>();
    public DbSet<KeptPaper> KeptPapers => Set<KeptPaper>();
    public DbSet<KeptPaperFile> KeptPaperFiles => Set<KeptPaperFile>();
    public DbSet<CalendarLink> CalendarLinks => Set<CalendarLink>();
    public DbSet<BenchHours> BenchHours => Set<BenchHours>();
    public DbSet<PersonCompetence> PersonCompetences => Set<PersonCompetence>();
    public DbSet<ItemChange> ItemChanges => Set<ItemChange>();
    public DbSet<DiscardedSheet> DiscardedSheets => Set<DiscardedSheet>();
    public DbSet<HandedSheet> HandedSheets => Set<HandedSheet>();
    public DbSet<HouseChange> HouseChanges => Set<HouseChange>();
    public DbSet<Measurement> Measurements => Set<Measurement>();
    public DbSet<MeasuredFailure> MeasuredFailures => Set<MeasuredFailure>();
    public DbSet<SettledFailure> SettledFailures => Set<SettledFailure>();
    public DbSet<PersonClient> PersonClients => Set<PersonClient>();
    public DbSet<Session> Sessions => Set<Session>();
    public DbSet<PasswordLink> PasswordLinks => Set<PasswordLink>();
    public DbSet<SignInAttempt> SignInAttempts => Set<SignInAttempt>();
    public DbSet<AuditEntry> AuditEntries => Set<AuditEntry>();
    public DbSet<SignedHead> SignedHeads => Set<SignedHead>();
    public DbSet<Verification> Verifications => Set<Verification>();

    /// <summary>The rule by which what has no tag yet is left out everywhere.</summary>
    private const string OnlyRegistered = "registered";

    /// <summary>The same rows with what lies on a bench without a tag: for the bench alone.</summary>
    public static IQueryable<T> WithLoose<T>(IQueryable<T> rows)
        where T : class => rows.IgnoreQueryFilters([OnlyRegistered]);

    /// <summary>Whose eyes this context reads with; nobody's until it is said.</summary>
    public Sight Sight { get; set; } = new();

    /// <summary>The one way to point the context at a database, for the server, its tests and the migrations tool alike.</summary>
    public static void Configure(DbContextOptionsBuilder options, string connection) =>
        options.UseNpgsql(Tuned(connection)).UseSnakeCaseNamingConvention();

    /// <summary>
    /// The same few statements run all day: prepared after their second use they need no planning, and nothing of ours changes a session
    /// that
    /// would have to be reset.
    /// </summary>
    private static string Tuned(string connection) =>
        new NpgsqlConnectionStringBuilder(connection)
        {
            MaxAutoPrepare = 60,
            AutoPrepareMinUsages = 2,
            NoResetOnClose = true,
        }.ConnectionString;

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder) =>
        // Enumerations as words: a database that is read without the program should explain itself.
        configurationBuilder.Properties<Enum>().HaveConversion<string>().HaveMaxLength(40);

    /// <summary>As every query of the register asks: an index of these rows alone answers it without reading one.</summary>
    private const string Registered = "NOT is_loose";

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.HasPostgresExtension("pg_trgm");
        People(builder);
        KitAtHand(builder);
        FromOutside(builder);
        Trust(builder);
        VisibleToPerson(builder);
        builder.Entity<Client>(client =>
        {
            client.HasIndex(it => it.Code).IsUnique();
            client.Ignore(it => it.Policy);
            client.Property(it => it.Code).HasMaxLength(10);
            client.Property(it => it.Name).HasMaxLength(200);
        });
        builder.Entity<Site>(site => site.HasIndex(it => new { it.ClientId, it.Name }).IsUnique());
        builder.Entity<Round>(round =>
        {
            round.HasIndex(it => new { it.SiteId, it.ClosedOn });
            round.Property(it => it.OwnPolicy).HasColumnType("json");
        });
        builder.Entity<RoundItem>(item =>
        {
            item.HasKey(it => new { it.RoundId, it.ItemId });
            item.HasOne<Round>().WithMany().HasForeignKey(it => it.RoundId);
            item.HasIndex(it => it.ItemId);
            item.Property(it => it.ExcludedWhy).HasMaxLength(RoundItem.LongestWords);
            item.Property(it => it.TestedBy).HasMaxLength(RoundItem.LongestWords);
        });
        builder.Entity<RoundDayRow>(day =>
        {
            day.ToTable("round_days");
            day.HasKey(it => new
            {
                it.RoundId,
                it.Day,
                it.PersonId,
            });
            day.HasOne<Round>().WithMany().HasForeignKey(it => it.RoundId);
            day.HasOne<Person>().WithMany().HasForeignKey(it => it.PersonId);
        });
        builder.Entity<RegisterItem>(item =>
        {
            item.ToTable("items");
            item.Property(it => it.Tag).HasMaxLength(RegisterItem.LongestTag);
            item.Property(it => it.ReferenceValues).HasColumnType("json");
            item.Property(it => it.Crossing).HasColumnType("json");
            item.HasIndex(it => it.CrossesOn).HasFilter("crosses_on < due AND state = 'InService'");
            item.Property(it => it.Equipment).HasColumnType("jsonb").HasConversion(it => ItemJson.Write(it), json => ReadItem(json));
            // One tag a client, whatever the case: an index over lower(tag), made in the migration.
            item.HasIndex(it => it.ClientId);
            item.HasIndex(it => it.SiteId);
            item.HasIndex(it => new
                {
                    it.State,
                    it.Due,
                    it.SiteId,
                })
                .HasFilter(Registered);
            // What falls due at which site is counted without reading an item, and without passing over what is not due yet.
            item.Property(it => it.FallsOn)
                .HasComputedColumnSql("CASE WHEN due IS NULL THEN '-infinity'::date ELSE least(due, visual_due) END", stored: true);
            item.HasIndex(it => new
                {
                    it.State,
                    it.FallsOn,
                    it.SiteId,
                })
                .IncludeProperties(it => new
                {
                    it.Due,
                    it.VisualDue,
                    it.KindWord,
                })
                .HasFilter(Registered);
            item.Property(it => it.KindWord)
                .HasComputedColumnSql("coalesce(equipment->>'kind', 'appliance')", stored: true)
                .HasMaxLength(40);
            item.Property(it => it.UseWord).HasComputedColumnSql("coalesce(equipment->>'use', 'portable')", stored: true).HasMaxLength(40);
            item.Property(it => it.IsGone).HasComputedColumnSql("state IN ('Scrapped', 'Lost')", stored: true);
            // With what a page of the register asks of the rows before it, so that far pages are counted off in the index alone.
            item.HasIndex(it => new
                {
                    it.IsGone,
                    it.Due,
                    it.Tag,
                })
                .IncludeProperties(it => new { it.Id, it.ClientId })
                .HasFilter(Registered);
            item.HasIndex(it => it.Tag).IncludeProperties(it => new { it.Id, it.ClientId }).HasFilter(Registered);
            item.HasOne<RegisterItem>().WithMany().HasForeignKey(it => it.PartOf).OnDelete(DeleteBehavior.Restrict);
            item.HasIndex(it => it.PartOf).HasFilter("part_of IS NOT NULL");
            item.HasIndex(it => it.NamedAs).HasFilter("named_as IS NOT NULL");
            // One text to search in; a line feed keeps a word from reaching over from one to the next.
            item.Property(it => it.Words)
                .HasComputedColumnSql(
                    "tag || E'\n' || name || E'\n' || room || E'\n' || coalesce(maker, '') || E'\n' || coalesce(model, '') || E'\n' || "
                        + "coalesce(serial, '')",
                    stored: true
                );
            item.HasIndex(it => it.Words).HasMethod("gin").HasOperators("gin_trgm_ops");
            item.Property(it => it.HeldWhy).HasMaxLength(RegisterItem.LongestWhy);
            item.Property(it => it.HeldFrom).HasMaxLength(100);
            // The board is read by stage, the oldest first.
            item.HasIndex(it => new { it.Stage, it.HeldSince }).HasFilter("stage IS NOT NULL");
            item.Property(it => it.LockLeft).HasMaxLength(RegisterItem.LongestLock);
            item.HasIndex(it => it.LockLeft).HasFilter("lock_left IS NOT NULL");
        });
        builder.Entity<Inspection>(inspection =>
        {
            // "json" keeps the text to the letter, which the chain needs; "jsonb" would not.
            inspection.Property(it => it.Record).HasColumnType("json");
            inspection.Property(it => it.Taken).HasColumnType("json");
            inspection.Property(it => it.Before).HasColumnType("json");
            inspection.Property(it => it.After).HasColumnType("json");
            // Written by every statement of this version; rows of the one before were form 1.
            inspection.Property(it => it.Chain).HasDefaultValue((short)1).ValueGeneratedNever();
            // Of corrections alone: nearly every record corrects none, and the planner would read them all to find that.
            inspection.HasIndex(it => it.Corrects).IsUnique().HasFilter("corrects IS NOT NULL");
            inspection.HasIndex(it => new { it.ClientId, it.BookNumber }).IsUnique();
            inspection.HasIndex(it => new { it.ItemId, it.TestedAt });
            // What the last inspections took, of those that say so.
            inspection.HasIndex(it => it.TestedAt).HasFilter("bench_seconds IS NOT NULL");
            inspection.HasIndex(it => new { it.RoundId, it.ItemId });
            // A round with records stays.
            inspection.HasOne<Round>().WithMany().HasForeignKey(record => record.RoundId).OnDelete(DeleteBehavior.Restrict);
            inspection.Property(it => it.InstrumentId).HasComputedColumnSql("((record->'instrument')->>'id')::uuid", stored: true);
            inspection.Property(it => it.BenchSeconds).HasComputedColumnSql("bench_seconds(record)", stored: true);
            inspection.HasIndex(it => new { it.InstrumentId, it.TestedAt }).HasFilter("instrument_id IS NOT NULL");
        });
        builder.Entity<QuarantineRow>(act =>
        {
            act.ToTable("quarantine_acts");
            act.Property(it => it.By).HasMaxLength(100);
            act.Property(it => it.Act).HasColumnType("json");
            act.HasIndex(it => new { it.ItemId, it.At });
            act.HasOne<RegisterItem>().WithMany().HasForeignKey(it => it.ItemId);
        });
        builder.Entity<HireMoveRow>(move =>
        {
            move.ToTable("hire_moves");
            move.Property(it => it.By).HasMaxLength(100);
            move.Property(it => it.Move).HasColumnType("json");
            move.HasIndex(it => new { it.ItemId, it.Number }).IsUnique();
            move.HasOne<RegisterItem>().WithMany().HasForeignKey(it => it.ItemId);
        });
        builder.Entity<HireItem>(hire =>
        {
            hire.HasKey(it => it.ItemId);
            hire.Ignore(it => it.Standing);
            hire.Property(it => it.OutTo).HasMaxLength(Core.Hire.HireMove.LongestText);
            hire.Property(it => it.SeenBy).HasMaxLength(100);
            hire.Property(it => it.LaidBy).HasMaxLength(100);
            hire.HasOne(it => it.Item).WithOne().HasForeignKey<HireItem>(it => it.ItemId);
        });
        builder.Entity<ReviewedRecord>(look =>
        {
            look.HasKey(it => it.InspectionId);
            look.Property(it => it.By).HasMaxLength(100);
            look.Property(it => it.Words).HasMaxLength(ReviewedRecord.LongestWords);
            look.HasIndex(it => it.RoundId);
            look.HasOne(it => it.Inspection).WithOne().HasForeignKey<ReviewedRecord>(it => it.InspectionId);
            look.HasOne<Round>().WithMany().HasForeignKey(it => it.RoundId);
        });
        builder.Entity<RoundSignature>(signature =>
        {
            signature.HasKey(it => it.RoundId);
            signature.Property(it => it.By).HasMaxLength(100);
            signature.Property(it => it.Words).HasMaxLength(ReviewedRecord.LongestWords);
            signature.HasOne(it => it.Round).WithOne().HasForeignKey<RoundSignature>(it => it.RoundId);
        });
        builder.Entity<LabelPrint>(print =>
        {
            print.Property(it => it.By).HasMaxLength(100);
            print.Property(it => it.Medium).HasMaxLength(40);
            print.Property(it => it.Reason).HasMaxLength(LabelPrint.LongestReason);
            print.HasIndex(it => new { it.BatchId, it.InspectionId }).IsUnique();
            print.HasOne(it => it.Inspection).WithMany().HasForeignKey(it => it.InspectionId);
        });
        builder.Entity<GroupDecision>(decision =>
        {
            decision.Property(it => it.By).HasMaxLength(100);
            decision.Property(it => it.Reason).HasMaxLength(GroupDecision.LongestReason);
            decision
                .HasIndex(it => new
                {
                    it.Kind,
                    it.Place,
                    it.Number,
                })
                .IsUnique();
        });
        builder.Entity<KeptPaper>(paper =>
        {
            paper.Property(it => it.Title).HasMaxLength(KeptPaper.LongestTitle);
            paper.Property(it => it.AskedBy).HasMaxLength(100);
            paper.HasIndex(it => new { it.RoundId, it.AskedAt });
            paper.HasIndex(it => new { it.ClientId, it.AskedAt });
            // Few wait at a time, however many are kept.
            paper.HasIndex(it => it.AskedAt).HasFilter("state IN ('Waiting', 'Making')").HasDatabaseName("ix_kept_papers_to_make");
            paper.HasOne(it => it.Round).WithMany().HasForeignKey(it => it.RoundId);
            paper.HasOne(it => it.Client).WithMany().HasForeignKey(it => it.ClientId);
        });
        builder
            .Entity<KeptPaperFile>()
            .HasOne<KeptPaper>()
            .WithOne()
            .HasForeignKey<KeptPaperFile>(it => it.Id)
            .OnDelete(DeleteBehavior.Cascade);
        builder.Entity<ItemChange>(change =>
        {
            change.HasIndex(it => new { it.ItemId, it.At });
            change.HasOne<RegisterItem>().WithMany().HasForeignKey(it => it.ItemId);
        });
        builder.Entity<HandedSheet>().HasOne<Round>().WithMany().HasForeignKey(sheet => sheet.RoundId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<DiscardedSheet>(sheet =>
        {
            sheet.HasOne<Round>().WithMany().HasForeignKey(discarded => discarded.RoundId).OnDelete(DeleteBehavior.Restrict);
            sheet.Property(it => it.Events).HasColumnType("json");
            sheet.HasIndex(it => it.ItemId);
        });
        builder.Entity<HandedSheet>(sheet =>
        {
            sheet.Property(it => it.Events).HasColumnType("json");
            sheet.HasIndex(it => it.ItemId);
            sheet.HasIndex(it => it.EndedAt);
        });
        builder.Entity<HouseChange>(change =>
        {
            change.HasKey(it => new { it.PackId, it.Revision });
            change.Property(it => it.PackId).HasMaxLength(60);
            change.Property(it => it.RuleId).HasMaxLength(100);
            change.Property(it => it.Unit).HasMaxLength(10);
            change.Property(it => it.Reason).HasMaxLength(HouseChange.LongestReason);
            change.Property(it => it.By).HasMaxLength(100);
        });
        builder.Entity<Book>(book =>
        {
            book.HasKey(it => it.ClientId);
            book.HasOne<Client>().WithOne().HasForeignKey<Book>(it => it.ClientId);
        });
    }

    private static void People(ModelBuilder builder)
    {
        builder.Entity<Person>(person =>
        {
            person.Property(it => it.DisplayName).HasMaxLength(100);
            person.Property(it => it.Initials).HasMaxLength(5);
            person.Property(it => it.LastCode).HasMaxLength(10);
        });
        // As Identity's own third schema has it, which it takes only from a host's options: the model must be the same without one.
        builder.Entity<IdentityUserPasskey<Guid>>(passkey =>
        {
            passkey.ToTable("passkeys");
            passkey.HasKey(it => it.CredentialId);
            passkey.Property(it => it.CredentialId).HasMaxLength(1024);
            passkey.OwnsOne(it => it.Data).ToJson();
            passkey.HasOne<Person>().WithMany().HasForeignKey(it => it.UserId);
        });
        builder.Entity<PersonClient>(link =>
        {
            link.HasKey(it => new { it.PersonId, it.ClientId });
            link.HasOne<Person>().WithMany().HasForeignKey(it => it.PersonId);
            link.HasOne<Client>().WithMany().HasForeignKey(it => it.ClientId);
        });
        builder.Entity<Session>(session =>
        {
            session.HasOne<Person>().WithMany().HasForeignKey(it => it.PersonId);
            session.HasIndex(it => new { it.PersonId, it.EndedAt });
            session.Property(it => it.Address).HasMaxLength(60);
            session.Property(it => it.Browser).HasMaxLength(300);
        });
        builder.Entity<PasswordLink>(link =>
        {
            link.HasKey(it => it.TokenHash);
            link.HasOne<Person>().WithMany().HasForeignKey(it => it.PersonId);
        });
        builder.Entity<SignInAttempt>(attempt =>
        {
            attempt.Property(it => it.Address).HasMaxLength(60);
            attempt.HasIndex(it => new { it.Name, it.At });
        });
    }

    private static void FromOutside(ModelBuilder builder)
    {
        builder.Entity<PublicLink>(link =>
        {
            link.HasKey(it => it.Token);
            link.Property(it => it.Token).HasMaxLength(40);
            link.HasIndex(it => it.ItemId).IsUnique().HasFilter("revoked_at IS NULL");
        });
        builder.Entity<UserCheck>(check =>
        {
            check.Property(it => it.Words).HasMaxLength(UserCheck.LongestWords);
            check.Property(it => it.Name).HasMaxLength(UserCheck.LongestName);
            check.Property(it => it.Decision).HasMaxLength(UserCheck.LongestWords);
            check.Property(it => it.SeenBy).HasMaxLength(100);
            check.HasIndex(it => it.ItemId);
            check.HasIndex(it => it.At).HasFilter("seen_at IS NULL AND report <> 'AllGood'");
        });
        builder.Entity<Photo>(photo =>
        {
            photo.Property(it => it.By).HasMaxLength(100);
            photo.Property(it => it.Step).HasMaxLength(Photo.LongestStep);
            photo.HasIndex(it => new { it.ItemId, it.At });
        });
    }

    private static void KitAtHand(ModelBuilder builder)
    {
        builder.Entity<KitItem>(kit =>
        {
            kit.ToTable("kit_items");
            kit.Property(it => it.Name).HasMaxLength(60);
            kit.Property(it => it.Maker).HasMaxLength(60);
            kit.Property(it => it.Model).HasMaxLength(60);
            kit.Property(it => it.Serial).HasMaxLength(60);
            kit.Property(it => it.Certificate).HasMaxLength(60);
            kit.Property(it => it.ProductStandard).HasMaxLength(60);
            kit.Property(it => it.Accuracies).HasColumnType("json");
            kit.Property(it => it.StatedValues).HasColumnType("json");
            // One name a house, whatever the case: an index over lower(name), made in the migration.
        });
        builder.Entity<KitCheck>(check =>
        {
            check.Property(it => it.Person).HasMaxLength(100);
            check.Property(it => it.Result).HasColumnType("json");
            check.HasIndex(it => new { it.KitItemId, it.At });
        });
        builder.Entity<KitOfDay>(day =>
        {
            day.HasKey(it => it.PersonId);
            day.HasOne<Person>().WithOne().HasForeignKey<KitOfDay>(it => it.PersonId);
        });
        builder.Entity<LookChange>(change =>
        {
            change.HasKey(it => it.Revision);
            change.Property(it => it.Revision).ValueGeneratedNever();
            change.PrimitiveCollection(it => it.Kinds).ElementType().HasConversion<string>();
            change.PrimitiveCollection(it => it.Classes).ElementType().HasConversion<string>();
            change.PrimitiveCollection(it => it.Plugs).ElementType().HasConversion<string>();
            change.Property(it => it.PointId).HasMaxLength(60);
            change.Property(it => it.Where).HasMaxLength(200);
            change.Property(it => it.Text).HasMaxLength(200);
            change.Property(it => it.Reason).HasMaxLength(300);
            change.Property(it => it.By).HasMaxLength(100);
        });
        builder.Entity<ProcedureRow>(procedure =>
        {
            procedure.ToTable("procedures");
            procedure.Property(it => it.Newest).IsConcurrencyToken();
            procedure.Property(it => it.RetiredBy).HasMaxLength(100);
            procedure.Property(it => it.RetiredWhy).HasMaxLength(ProcedureVersion.LongestReason);
            procedure.HasMany(it => it.Versions).WithOne().HasForeignKey(it => it.ProcedureId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<ProcedureVersion>(version =>
        {
            version.HasKey(it => new { it.ProcedureId, it.Version });
            version.Property(it => it.Text).HasColumnType("json");
            version.Property(it => it.Name).HasMaxLength(120);
            version.Property(it => it.PackId).HasMaxLength(60);
            version.Property(it => it.Reason).HasMaxLength(ProcedureVersion.LongestReason);
            version.Property(it => it.By).HasMaxLength(100);
            version.HasIndex(it => it.PackId);
        });
        builder.Entity<OutletCheck>(check =>
        {
            check.Property(it => it.Person).HasMaxLength(100);
            check.Property(it => it.Name).HasMaxLength(500);
            check.Property(it => it.Room).HasMaxLength(500);
            check.Property(it => it.Voltages).HasColumnType("json");
            check.HasIndex(it => new { it.SiteId, it.Day });
        });
        builder.Entity<ReviewFlag>(flag =>
        {
            flag.Property(it => it.SeenBy).HasMaxLength(100);
            flag.HasIndex(it => new { it.InspectionId, it.KitCheckId }).IsUnique();
            flag.HasIndex(it => it.At).HasFilter("seen_at IS NULL");
        });
        builder.Entity<CalendarLink>(link =>
        {
            link.HasOne<Person>().WithMany().HasForeignKey(it => it.PersonId);
            link.HasOne<Client>().WithMany().HasForeignKey(it => it.ClientId);
            link.HasIndex(it => it.TokenHash).IsUnique();
        });
        builder.Entity<BenchHours>(hours =>
        {
            hours.HasKey(it => it.PersonId);
            hours.HasOne<Person>().WithMany().HasForeignKey(it => it.PersonId);
        });
        builder.Entity<PersonCompetence>(held =>
        {
            held.HasKey(it => new { it.PersonId, it.Competence });
            held.HasOne<Person>().WithMany().HasForeignKey(it => it.PersonId);
            held.Property(it => it.Evidence).HasMaxLength(PersonCompetence.LongestEvidence);
        });
    }

    private static void Trust(ModelBuilder builder)
    {
        builder.Entity<AuditEntry>(entry =>
        {
            entry.Property(it => it.Person).HasMaxLength(100);
            entry.Property(it => it.What).HasMaxLength(60);
            entry.Property(it => it.Subject).HasMaxLength(300);
            entry.Property(it => it.Address).HasMaxLength(60);
            entry.Property(it => it.Before).HasColumnType("json");
            entry.Property(it => it.After).HasColumnType("json");
            entry.HasIndex(it => it.At);
        });
        builder.Entity<SignedHead>(head =>
        {
            head.HasKey(it => new { it.ClientId, it.Number });
            head.Property(it => it.KeyId).HasMaxLength(16);
        });
        builder.Entity<Measurement>(measurement => measurement.Property(it => it.Reading).HasColumnType("json"));
        builder.Entity<MeasuredFailure>(failure =>
        {
            failure.HasOne<Round>().WithMany().HasForeignKey(measured => measured.RoundId).OnDelete(DeleteBehavior.Restrict);
            failure.Property(it => it.Person).HasMaxLength(100);
            failure.HasOne(it => it.Item).WithMany().HasForeignKey(it => it.ItemId);
        });
        builder.Entity<SettledFailure>(settled =>
        {
            settled.Property(it => it.Person).HasMaxLength(100);
            settled.Property(it => it.Words).HasMaxLength(SettledFailure.LongestWords);
            settled.HasOne(it => it.Failure).WithMany().HasForeignKey(it => it.FailureId);
            settled.HasOne<Inspection>().WithMany().HasForeignKey(it => it.RecordId);
        });
    }

    /// <summary>
    /// The one rule of who sees what, on every query whoever writes it: the house sees all, a client's viewer what is that client's.
    /// </summary>
    private void VisibleToPerson(ModelBuilder builder)
    {
        builder.Entity<Client>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.Id));
        builder.Entity<Site>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.ClientId));
        builder.Entity<Round>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.Site.ClientId));
        builder
            .Entity<RegisterItem>()
            .HasQueryFilter("sight", it => Sight.SeesAll || Sight.Clients.Contains(it.ClientId))
            .HasQueryFilter(OnlyRegistered, it => !it.IsLoose);
        builder.Entity<Inspection>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.ClientId));
        builder.Entity<PublicLink>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.Item.ClientId));
        builder.Entity<UserCheck>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.Item.ClientId));
        builder.Entity<Photo>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.Item.ClientId));
        builder.Entity<Book>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.ClientId));
        builder.Entity<SignedHead>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.ClientId));
        builder
            .Entity<QuarantineRow>()
            .HasQueryFilter(it => Sight.SeesAll || Items.Any(item => item.Id == it.ItemId && Sight.Clients.Contains(item.ClientId)));
        builder
            .Entity<ItemChange>()
            .HasQueryFilter(it => Sight.SeesAll || Items.Any(item => item.Id == it.ItemId && Sight.Clients.Contains(item.ClientId)));
        // What was left unfinished says that an item is not to be taken for good: its owner is not told otherwise.
        builder
            .Entity<DiscardedSheet>()
            .HasQueryFilter(it => Sight.SeesAll || Items.Any(item => item.Id == it.ItemId && Sight.Clients.Contains(item.ClientId)));
        builder
            .Entity<HandedSheet>()
            .HasQueryFilter(it => Sight.SeesAll || Items.Any(item => item.Id == it.ItemId && Sight.Clients.Contains(item.ClientId)));
        builder
            .Entity<HireMoveRow>()
            .HasQueryFilter(it => Sight.SeesAll || Items.Any(item => item.Id == it.ItemId && Sight.Clients.Contains(item.ClientId)));
        builder
            .Entity<HireItem>()
            .HasQueryFilter(it => Sight.SeesAll || Items.Any(item => item.Id == it.ItemId && Sight.Clients.Contains(item.ClientId)));
        builder.Entity<RoundSignature>().HasQueryFilter(it => Sight.SeesAll || Sight.Clients.Contains(it.Round.Site.ClientId));
        // What is not signed is the house's own.
        builder.Entity<KeptPaper>().HasQueryFilter(it => Sight.SeesAll || (it.IsForClient && Sight.Clients.Contains(it.ClientId)));
        builder
            .Entity<KeptPaperFile>()
            .HasQueryFilter(it =>
                Sight.SeesAll || KeptPapers.Any(paper => paper.Id == it.Id && paper.IsForClient && Sight.Clients.Contains(paper.ClientId))
            );
        // What is on the benches, in the kit and in the trail is the house's own.
        builder.Entity<BenchHours>().HasQueryFilter(it => Sight.SeesAll);
        builder
            .Entity<CalendarLink>()
            .HasQueryFilter(it => Sight.SeesAll || (it.ClientId != null && Sight.Clients.Contains(it.ClientId.Value)));
        builder.Entity<RoundItem>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<RoundDayRow>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<KitItem>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<KitCheck>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<KitOfDay>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<OutletCheck>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<LabelPrint>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<GroupDecision>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<ReviewedRecord>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<ReviewFlag>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<Measurement>().HasQueryFilter(it => Sight.SeesAll);
        // An item's owner is never told that it is ready where the house knows better.
        builder
            .Entity<MeasuredFailure>()
            .HasQueryFilter(it => Sight.SeesAll || Items.Any(item => item.Id == it.ItemId && Sight.Clients.Contains(item.ClientId)));
        builder.Entity<SettledFailure>().HasQueryFilter(it => Sight.SeesAll || MeasuredFailures.Any(failure => failure.Id == it.FailureId));
        builder.Entity<AuditEntry>().HasQueryFilter(it => Sight.SeesAll);
        builder.Entity<Verification>().HasQueryFilter(it => Sight.SeesAll);
    }

    private static Item ReadItem(string json) =>
        ItemJson.Read(json).TryGet(out var item)
            ? item
            : throw new InvalidDataException("An item in the database is not in the contract's words.");
}
