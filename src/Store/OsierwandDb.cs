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
    public DbSet<RegisterItem> Items => Set<RegisterItem>();
    public DbSet<Inspection> Inspections => Set<Inspection>();
    public DbSet<Book> Books => Set<Book>();
    public DbSet<Instrument> Instruments => Set<Instrument>();
    public DbSet<ItemChange> ItemChanges => Set<ItemChange>();
    public DbSet<DiscardedSheet> DiscardedSheets => Set<DiscardedSheet>();
    public DbSet<HandedSheet> HandedSheets => Set<HandedSheet>();
    public DbSet<HouseChange> HouseChanges => Set<HouseChange>();

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

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.Entity<Person>(person =>
        {
            person.Property(it => it.DisplayName).HasMaxLength(100);
            person.Property(it => it.Initials).HasMaxLength(5);
        });
        builder.Entity<Client>(client =>
        {
            client.HasIndex(it => it.Code).IsUnique();
            client.Ignore(it => it.Policy);
            client.Property(it => it.Code).HasMaxLength(10);
            client.Property(it => it.Name).HasMaxLength(200);
        });
        builder.Entity<Round>(round => round.HasIndex(it => new { it.SiteId, it.ClosedOn }));
        builder.Entity<RegisterItem>(item =>
        {
            item.ToTable("items");
            item.Property(it => it.Tag).HasMaxLength(RegisterItem.LongestTag);
            item.Property(it => it.ReferenceValues).HasColumnType("json");
            item.Property(it => it.Equipment).HasColumnType("jsonb").HasConversion(it => ItemJson.Write(it), json => ReadItem(json));
            // One tag a client, whatever the case: an index over lower(tag), made in the migration.
            item.HasIndex(it => it.ClientId);
            item.HasIndex(it => it.Due);
            item.HasIndex(it => it.SiteId);
        });
        builder.Entity<Inspection>(inspection =>
        {
            // "json" keeps the text to the letter, which the chain needs; "jsonb" would not.
            inspection.Property(it => it.Record).HasColumnType("json");
            inspection.Property(it => it.Taken).HasColumnType("json");
            inspection.Property(it => it.Before).HasColumnType("json");
            // Of corrections alone: nearly every record corrects none, and the planner would read them all to find that.
            inspection.HasIndex(it => it.Corrects).IsUnique().HasFilter("corrects IS NOT NULL");
            inspection.HasIndex(it => new { it.ClientId, it.BookNumber }).IsUnique();
            inspection.HasIndex(it => new { it.ItemId, it.TestedAt });
        });
        builder.Entity<ItemChange>(change =>
        {
            change.HasIndex(it => new { it.ItemId, it.At });
            change.HasOne<RegisterItem>().WithMany().HasForeignKey(it => it.ItemId);
        });
        builder.Entity<DiscardedSheet>(sheet =>
        {
            sheet.Property(it => it.Events).HasColumnType("json");
            sheet.HasIndex(it => it.ItemId);
        });
        builder.Entity<HandedSheet>(sheet =>
        {
            sheet.Property(it => it.Events).HasColumnType("json");
            sheet.HasIndex(it => it.ItemId);
            sheet.HasIndex(it => it.EndedAt);
        });
        builder.Entity<Instrument>(instrument => instrument.Property(it => it.Accuracies).HasColumnType("json"));
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

    private static Item ReadItem(string json) =>
        ItemJson.Read(json).TryGet(out var item)
            ? item
            : throw new InvalidDataException("An item in the database is not in the contract's words.");
}
