using System.Security.Cryptography;
using System.Text;
using CsCheck;
using Osierwand.Core.Records;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>What somebody could do to a book, and that each of it shows.</summary>
public class BookTests
{
    private static readonly Guid Client = new("0199a000-0000-7000-8000-000000000001");

    private static RecordColumns Columns(int at) =>
        new(
            new Guid(at, 0, 0, new byte[8]),
            Client,
            new Guid(at, 1, 0, new byte[8]),
            new Guid(at, 2, 0, new byte[8]),
            new Guid(at, 3, 0, new byte[8]),
            at % 5 == 0 ? new Guid(at - 1, 0, 0, new byte[8]) : null,
            new DateTimeOffset(2026, 3, 1, 9, 0, 0, TimeSpan.Zero).AddTicks(at * 12_345_670L),
            new DateTimeOffset(2026, 3, 1, 9, 5, 0, TimeSpan.Zero).AddSeconds(at),
            new DateOnly(2026, 3, 1).AddDays(at),
            at % 3 == 0 ? "Fail" : "Pass",
            at % 2 == 0,
            at % 7 == 0,
            at % 11 == 0,
            at,
            [(byte)at, 2, 3]
        );

    private static ReadOnlyMemory<byte> Utf8(string text) => Encoding.UTF8.GetBytes(text);

    private static List<KeptRecord> Book(int length)
    {
        var book = new List<KeptRecord>();
        var hash = RecordChain.Start;
        for (var at = 1; at <= length; at++)
        {
            var it = new KeptRecord(
                at,
                RecordChain.Form,
                Columns(at),
                Utf8($$"""{"n":{{at}},"words":"Ω ≤ 0.1"}"""),
                Utf8("[]"),
                Utf8("""{"State":"InService"}"""),
                Utf8($$"""{"State":"InService","n":{{at}}}"""),
                []
            );
            hash = it.HashAfter(hash);
            book.Add(it with { Hash = hash });
        }
        return book;
    }

    private static string? Walked(IEnumerable<KeptRecord> book)
    {
        var walk = BookWalk.FromStart();
        return book.Select(walk.Take).FirstOrDefault(it => it is not null);
    }

    [Fact]
    public void A_whole_book_is_walked_to_its_end_and_a_stretch_of_it_from_anywhere()
    {
        var book = Book(20);
        Walked(book).ShouldBeNull();
        var walk = new BookWalk(12, book[11].Hash, 2);
        book.Skip(12).Select(walk.Take).ShouldAllBe(it => it == null);
        walk.Hash.ShouldBe(book[^1].Hash);
    }

    /// <summary>Every single thing that is kept: none can be changed without the walk's stopping there.</summary>
    public static TheoryData<string> Changes =>
        [
            "id",
            "client",
            "item",
            "round",
            "technician",
            "corrects",
            "testedAt",
            "receivedAt",
            "day",
            "outcome",
            "isTest",
            "nearLimit",
            "rising",
            "revision",
            "sent",
            "record",
            "taken",
            "before",
            "after",
            "number",
            "form",
            "hash",
        ];

    [Theory]
    [MemberData(nameof(Changes))]
    public void Whatever_is_altered_of_a_record_shows_at_that_record(string what)
    {
        var book = Book(9);
        var it = book[4];
        var columns = it.Columns;
        book[4] = what switch
        {
            "id" => it with { Columns = columns with { Id = Guid.NewGuid() } },
            "client" => it with { Columns = columns with { ClientId = Guid.NewGuid() } },
            "item" => it with { Columns = columns with { ItemId = Guid.NewGuid() } },
            "round" => it with { Columns = columns with { RoundId = Guid.NewGuid() } },
            "technician" => it with { Columns = columns with { TechnicianId = Guid.NewGuid() } },
            "corrects" => it with { Columns = columns with { Corrects = null } },
            "testedAt" => it with { Columns = columns with { TestedAt = columns.TestedAt.AddMicroseconds(1) } },
            "receivedAt" => it with { Columns = columns with { ReceivedAt = columns.ReceivedAt.AddDays(1) } },
            "day" => it with { Columns = columns with { Day = columns.Day.AddDays(1) } },
            "outcome" => it with { Columns = columns with { Outcome = "Fail" } },
            "isTest" => it with { Columns = columns with { IsTest = !columns.IsTest } },
            "nearLimit" => it with { Columns = columns with { NearLimit = !columns.NearLimit } },
            "rising" => it with { Columns = columns with { Rising = !columns.Rising } },
            "revision" => it with { Columns = columns with { Revision = 99 } },
            "sent" => it with { Columns = columns with { Sent = [9] } },
            "record" => it with { Record = Utf8("""{"n":5,"words":"Ω ≤ 0.2"}""") },
            "taken" => it with { Taken = Utf8("[1]") },
            "before" => it with { StoodBefore = Utf8("{}") },
            "after" => it with { StandsAfter = Utf8("{}") },
            "number" => it with { Number = 6 },
            "form" => it with { Form = 1 },
            "hash" => it with { Hash = book[5].Hash },
            _ => throw new ArgumentOutOfRangeException(nameof(what)),
        };
        Walked(book.Take(4)).ShouldBeNull();
        Walked(book.Take(5)).ShouldNotBeNull();
    }

    [Fact]
    public void A_missing_exchanged_or_inserted_record_shows()
    {
        var book = Book(9);
        Walked([.. book[..3], .. book[4..]]).ShouldNotBeNull().ShouldContain("record 4 is missing");
        Walked([.. book[..3], book[4], book[3], .. book[5..]]).ShouldNotBeNull();
        Walked([.. book[..3], book[2], .. book[3..]]).ShouldNotBeNull().ShouldContain("stands where 4 belongs");
        // Two numbers swapped, with everything else left as it was.
        Walked([.. book[..3], book[4] with { Number = 4 }, book[3] with { Number = 5 }, .. book[5..]]).ShouldNotBeNull();
    }

    [Fact]
    public void Columns_come_back_from_their_text_to_the_microsecond() =>
        Gen.Int[1, 100_000].Sample(at => RecordColumns.Read(Columns(at).ToString()).ToString() == Columns(at).ToString());

    [Fact]
    public void The_first_versions_records_are_held_against_their_columns()
    {
        var columns = Columns(1) with { Outcome = "PassWithAdvice", Corrects = null, NearLimit = false, Rising = false };
        var record = Utf8(
            $$"""
            {"id":"{{columns.Id}}","item":{"id":"{{columns.ItemId}}"},"times":{"date":"{{columns.Day:yyyy-MM-dd}}"},"isTest":false,"outcome":"passWithAdvice",
             "nearLimit":false,"rising":false,"taken":[{"a":1}]}
            """
        );
        var old = new KeptRecord(
            1,
            1,
            columns,
            record,
            Utf8("""[ {"a":1} ]"""),
            Utf8("{}"),
            default,
            RecordChain.Next(RecordChain.Start, record.Span)
        );
        Walked([old]).ShouldBeNull();
        Walked([old with { Columns = columns with { Outcome = "Pass" } }]).ShouldNotBeNull().ShouldContain("outcome");
        Walked([old with { Columns = columns with { Day = columns.Day.AddDays(1) } }]).ShouldNotBeNull().ShouldContain("date");
        Walked([old with { Taken = Utf8("""[{"a":2}]""") }]).ShouldNotBeNull().ShouldContain("readings");
        // The old form is over once the new one has begun.
        var next = Book(1)[0] with
        {
            Number = 2,
        };
        next = next with { Hash = next.HashAfter(old.Hash) };
        var back = old with { Number = 3, Hash = RecordChain.Next(next.Hash, record.Span) };
        Walked([old, next]).ShouldBeNull();
        Walked([old, next, back]).ShouldNotBeNull().ShouldContain("form");
    }

    [Fact]
    public void A_book_in_a_file_is_checked_with_the_public_key_alone()
    {
        using var key = BookHead.NewKey();
        using var stranger = BookHead.NewKey();
        var file = File(Book(9), key);
        using var publicKey = ECDsa.Create();
        publicKey.ImportFromPem(key.ExportSubjectPublicKeyInfoPem());
        BookFile.Check(file, publicKey).Value.ShouldBe(9);
        BookFile.Check(file, stranger).Fault.ShouldNotBeNull().Message.ShouldContain("signature");
        BookFile.Check(file[..^1], publicKey).Fault.ShouldNotBeNull().Message.ShouldContain("without a signed head");
        BookFile.Check([.. file[..^2], file[^1]], publicKey).Fault.ShouldNotBeNull().Message.ShouldContain("last record is 8");
        BookFile.Check([.. file, file[^1]], publicKey).Fault.ShouldNotBeNull();
        BookFile.Check([file[0], .. file[2..]], publicKey).Fault.ShouldNotBeNull().Message.ShouldContain("missing");
        BookFile.Check(["{}"], publicKey).Fault.ShouldNotBeNull();
        BookFile.Check([], publicKey).Fault.ShouldNotBeNull();
        // Another client's head under this client's records.
        BookFile.Check([BookFile.FirstLine(Guid.NewGuid(), "Somebody else"), .. file[1..]], publicKey).Fault.ShouldNotBeNull();
    }

    [Fact]
    public void No_character_of_a_file_can_be_changed_unseen()
    {
        using var key = BookHead.NewKey();
        var file = File(Book(4), key);
        var dice = Gen.Select(Gen.Int[1, file.Length - 1], Gen.Int[0, 10_000], Gen.Char['!', '~']);
        dice.Sample(
            thrown =>
            {
                var (line, place, letter) = thrown;
                var at = place % file[line].Length;
                // The key's id in the last line is a hint for people; the signature decides.
                if (
                    file[line][at] == letter
                    || (
                        line == file.Length - 1
                        && file[line].IndexOf("keyId", StringComparison.Ordinal) is var id
                        && at >= id
                        && at < id + 26
                    )
                )
                    return;
                var changed = file.ToArray();
                changed[line] = string.Concat(file[line].AsSpan(0, at), letter.ToString(), file[line].AsSpan(at + 1));
                BookFile.Check(changed, key).Fault.ShouldNotBeNull($"line {line}: {changed[line]}");
            },
            iter: 4_000
        );
    }

    [Fact]
    public void Heads_kept_outside_come_back_and_a_bent_line_is_no_head()
    {
        var head = new BookHead(Client, 12, RecordChain.Start, new DateTimeOffset(2026, 3, 9, 12, 0, 0, TimeSpan.Zero));
        var text = HeadAnchors.Write([head]);
        HeadAnchors.Read(text).ShouldHaveSingleItem().Text.ShouldBe(head.Text);
        foreach (var bent in new[] { text[..40], text.Replace("12 ", "-12 "), text.Replace(" ", "  "), "nothing of the kind" })
            Should.Throw<FormatException>(() => HeadAnchors.Read(bent));
    }

    private static string[] File(List<KeptRecord> book, ECDsa key)
    {
        var head = new BookHead(Client, book[^1].Number, book[^1].Hash, new DateTimeOffset(2026, 3, 9, 12, 0, 0, TimeSpan.Zero));
        return
        [
            BookFile.FirstLine(Client, "Larkfell"),
            .. book.Select(BookFile.RecordLine),
            BookFile.LastLine(head, BookHead.KeyId(key), head.Sign(key)),
        ];
    }
}
