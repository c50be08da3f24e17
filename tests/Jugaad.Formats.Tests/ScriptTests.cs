using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;

namespace Jugaad.Formats.Tests;

/// <summary>Papers in all scripts that ship: what is painted, measured, embedded and copied.</summary>
public sealed class ScriptTests
{
    private const string Everything =
        "Ülo Mägi, Νίκος Παπαδόπουλος, Иванов Иван, שלום עולם 12, محمد علي 34, 日本語テスト, สวัสดี, 😀 ✓ → № ½";

    private static DisplayList Paper(params string[] lines) =>
        new(
            "Scripts",
            210,
            297,
            [new PaperPage([.. lines.Select((t, i) => (Mark)new TextMark(20, 20 + (i * 8), t, 10, i % 2 == 1))])]
        );

    private static byte[] Pdf(DisplayList paper) =>
        PdfPainter.Paint([paper], new PaperPictures(null, null), new DateOnly(2025, 9, 17), "Loft");

    private static List<Letter> Letters(DisplayList paper)
    {
        using var read = PdfDocument.Open(Pdf(paper));
        return [.. read.GetPages().SelectMany(p => p.Letters)];
    }

    [Theory]
    [InlineData(Everything)]
    [InlineData("Łódź Ţăţar Đặng Ŧ ǅ ẞ ﬁ ‰ „“ – — … • €")]
    [InlineData("Ѐ Ї Ґ ѣ Ӂ ԯ ά ῼ Ω")]
    [InlineData("e\u0301 u\u0308 👨\u200D👩\u200D👧 ❤\uFE0F")]
    public void No_glyph_is_missing(string text)
    {
        foreach (var bold in new[] { false, true })
        {
            foreach (var run in Shaped.Of(text, new TypeStyle("", bold)).Runs)
                run.Glyphs.ShouldAllBe(
                    g => g.Glyph != 0 || run.Run.Text == "",
                    $"{run.Run.Text} in {run.Run.Face.Key}"
                );
        }
        TextRuns.Unprintable(text).ShouldBeEmpty();
    }

    [Fact]
    public void No_currency_and_no_format_paints_a_missing_glyph()
    {
        foreach (var pattern in DisplayFormat.DatePatterns)
        {
            foreach (var mark in new[] { '.', ',' })
            {
                var format = new DisplayFormat(mark, pattern);
                foreach (var currency in Currency.All)
                {
                    var text =
                        $"{format.WithCode(-123_456_789_012, currency)} {format.Percent(12.5m)} {format.Price(1234.567891m, currency)} {format.Figure(-1_234_567.5m)} {format.Date(new DateOnly(2025, 12, 31))}";
                    Shaped
                        .Of(text, new TypeStyle(""))
                        .Runs.ShouldAllBe(r => r.Run.Face == PaperFace.First && r.Glyphs.All(g => g.Glyph != 0), text);
                }
            }
        }
    }

    [Fact]
    public void A_thousand_is_set_in_one_typeface_and_copied_as_a_figure()
    {
        var amount = new DisplayFormat('.', "d MMM yyyy").Amount(123_450, Currency.Of("EUR"));
        amount.ShouldBe("1\u202f234.50");
        var letters = Letters(Paper(amount));
        string.Concat(letters.Select(l => l.Value)).ShouldBe("1 234.50");
        // The narrow blank is narrower than a plain one, on paper as it was measured.
        var end = PaperFonts.Shared.Width(amount, 10, false) * 72 / 25.4;
        (letters[^1].EndBaseLine.X - letters[0].StartBaseLine.X).ShouldBe(end, 0.05);
        PaperFonts.Shared.Width(amount, 10, false).ShouldBeLessThan(PaperFonts.Shared.Width("1 234.50", 10, false));
    }

    [Fact]
    public void What_is_measured_is_what_is_painted()
    {
        foreach (var text in Everything.Split(", ").Append(Everything))
        {
            var letters = Letters(Paper(text));
            var right = letters.Max(l => l.EndBaseLine.X);
            ((right - (20 * 72 / 25.4)) * 25.4 / 72).ShouldBe(PaperFonts.Shared.Width(text, 10, false), 0.5, text);
        }
    }

    [Fact]
    public void Names_of_all_scripts_are_copied_as_they_were_written()
    {
        foreach (var name in new[] { "Νίκος Παπαδόπουλος", "Иванов Иван", "日本語テスト", "Ülo Mägi" })
            string.Concat(Letters(Paper(name)).Select(l => l.Value)).ShouldBe(name);
        // What runs from right to left lies in the file from left to right, and Arabic in the forms that its letters
        // have within a word; a reader turns the one round and the other back.
        foreach (var name in new[] { "שלום", "สวัสดี" })
            string.Concat(string.Concat(Letters(Paper(name)).Select(l => l.Value)).Order())
                .ShouldBe(string.Concat(name.Order()));
        string.Concat(Letters(Paper("محمد")).Select(l => l.Value)).ShouldBe("ﺪﻤﺤﻣ");
    }

    [Fact]
    public void A_name_from_right_to_left_stands_in_its_order_among_others()
    {
        // Stored in reading order, set from right to left; the figure within is read from left to right.
        TextDirections
            .Of("abc שלום 12 עולם def")
            .ShouldBe([
                new TextDirections.Stretch(0, 4, true),
                new TextDirections.Stretch(11, 5, false),
                new TextDirections.Stretch(9, 2, true),
                new TextDirections.Stretch(4, 5, false),
                new TextDirections.Stretch(16, 4, true),
            ]);
        TextDirections.Of("1 234.50").Single().Rightwards.ShouldBeTrue();
        TextDirections.Of("שלום").Single().Rightwards.ShouldBeFalse();
        var run = Shaped.Of("שלום", new TypeStyle("")).Runs.Single();
        run.Glyphs[0].Cluster.ShouldBe(3, "the last letter stands leftmost");
    }

    [Fact]
    public void What_nothing_can_print_is_told_and_marked_and_signs_that_are_not_seen_are_passed_over()
    {
        PaperFonts.Shared.Unprintable("A 한국 B 한").ShouldBe(["한", "국"]);
        PaperFonts.Shared.Unprintable("soft\u00ADhyphen \u200B and \u202Aembedded\u202C\tand tab").ShouldBeEmpty();
        string.Concat(TextRuns.Of("A 한 B", "").Select(r => r.Text)).ShouldBe("A \uFFFD B");
        string.Concat(TextRuns.Of("a\u0001b\tc\u202Ed", "").Select(r => r.Text)).ShouldBe("ab cd");
        TextRuns.Of("\ud83d", "").ShouldBeEmpty("half a sign is none");
    }

    [Fact]
    public void Only_what_is_used_of_a_typeface_is_embedded()
    {
        Pdf(Paper("Иванов Иван, 1\u202f234.50", "日本語", "😀")).Length.ShouldBeLessThan(60_000);
        Pdf(Paper("Plain", "words")).Length.ShouldBeLessThan(20_000);
    }

    [Fact]
    public void The_screen_puts_each_part_where_the_paper_has_it()
    {
        var svg = SvgPainter.Paint(Paper("1\u202f234.50", "Иванов 12"), _ => null).Single();
        svg.ShouldContain("<tspan x=\"20\">1\u202f</tspan>");
        svg.ShouldContain("class=\"face-greek-cyrillic\"");
        SvgPainter.Paint(Paper("שלום abc"), _ => null).Single().ShouldContain("class=\"face-hebrew\"");
    }

    [Fact]
    public void Every_typeface_of_the_table_is_there_for_pages_and_no_other()
    {
        foreach (var key in PaperFonts.Keys)
            PaperFonts.File(key, "regular").ShouldNotBeNull(key).Length.ShouldBeGreaterThan(10_000);
        foreach (var key in new[] { "latin", "bookish", "narrow", "typewriter" })
        {
            foreach (var weight in new[] { "bold", "italic", "bold-italic" })
                PaperFonts.File(key, weight).ShouldNotBeNull(key).ShouldNotBe(PaperFonts.File(key, "regular"));
        }

        PaperFonts.File("emoji", "bold").ShouldBeNull();
        PaperFonts.File("hebrew", "italic").ShouldBeNull();
        PaperFonts.File("other", "regular").ShouldBeNull();
    }
}
