using Shouldly;

namespace Osierwand.Core.Tests;

public class KeptTextTests
{
    [Theory]
    [InlineData("Läufer im Büro, 2 m", null)]
    [InlineData("検査済み", null)]
    [InlineData("two\nlines\tand a tab", null)]
    [InlineData("a plug 🔌", null)]
    [InlineData("a\0b", "cannot be printed")]
    [InlineData("a\u0085b", "cannot be printed")]
    [InlineData("a\uffffb", "cannot be printed")]
    public void What_nobody_wrote_is_told(string text, string? why)
    {
        if (why is null)
            KeptText.Unreadable(text).ShouldBeNull();
        else
            KeptText.Unreadable(text).ShouldNotBeNull().ShouldContain(why);
    }

    [Fact]
    public void Half_a_character_is_no_text()
    {
        KeptText.Unreadable("cut \ud83d").ShouldNotBeNull().ShouldContain("half a character");
        KeptText.Unreadable("\udd0c cut").ShouldNotBeNull().ShouldContain("half a character");
    }

    [Theory]
    [InlineData("LMR-\u202e1020", "U+202E")] // reads backwards
    [InlineData("LMR-0201\u200b", "U+200B")] // no width
    [InlineData("\ufeffLMR-0201", "U+FEFF")] // a file's byte order mark
    [InlineData("LMR\u2066-0201", "U+2066")]
    [InlineData("LMR\u00ad-0201", "U+00AD")] // shown only at a line's end
    public void Two_tags_that_look_alike_are_not_let_in(string tag, string which)
    {
        KeptText.Unseen(tag).ShouldNotBeNull().ShouldContain(which);
        KeptText.Unreadable(tag).ShouldBeNull("a remark may be written in any script");
    }

    [Fact]
    public void Too_long_is_told_with_both_lengths() =>
        KeptText.Refusal(new string('x', 41), 40).ShouldBe("41 characters are too many; 40 fit.");
}
