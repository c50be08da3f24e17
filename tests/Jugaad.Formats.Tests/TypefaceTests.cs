using System.Buffers.Binary;
using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Papers;
using UglyToad.PdfPig;
using static Jugaad.Formats.Tests.SampleContent;

namespace Jugaad.Formats.Tests;

/// <summary>Typefaces of one's own: read, measured and embedded like those that ship, and refused where they may not be.</summary>
public sealed class TypefaceTests
{
    private static byte[] Typewriter(string weight = "regular") => PaperFonts.File("typewriter", weight)!;

    private static Layout With(LayoutTypeface typeface, string face = "house") =>
        ShippedLayouts.Plain with
        {
            Typefaces = new Dictionary<string, LayoutTypeface> { ["house"] = typeface },
            Face = face,
        };

    private static readonly LayoutTypeface House = new()
    {
        Name = "House",
        Regular = Typewriter(),
        Bold = Typewriter("bold"),
    };

    private static DisplayList Compose(Layout layout) => Composer.Compose(layout, Invoice(3), PaperFonts.Shared);

    private static byte[] Pdf(DisplayList paper) =>
        PdfPainter.Paint([paper], new PaperPictures(null, null), new DateOnly(2025, 9, 17), "Loft");

    /// <summary>With what the file says of how it may be used (OpenType, OS/2 fsType).</summary>
    private static byte[] Used(ushort use)
    {
        var file = Typewriter().ToArray();
        var tables = BinaryPrimitives.ReadUInt16BigEndian(file.AsSpan(4));
        for (var i = 0; i < tables; i++)
        {
            var entry = file.AsSpan(12 + (16 * i));
            if (entry[..4].SequenceEqual("OS/2"u8))
                BinaryPrimitives.WriteUInt16BigEndian(
                    file.AsSpan((int)BinaryPrimitives.ReadUInt32BigEndian(entry[8..]) + 8),
                    use
                );
        }

        return file;
    }

    [Fact]
    public void A_paper_is_set_in_a_typeface_of_ones_own_on_the_screen_and_in_the_file()
    {
        var own = Compose(With(House));
        var shipped = Compose(ShippedLayouts.Plain with { Face = "typewriter" });
        TextOf(own).ShouldBe(TextOf(shipped));
        var key = own.Pages[0].Marks.OfType<TextMark>().First(t => !t.Bold).Face;
        key.ShouldStartWith("own-");
        foreach (var bold in new[] { false, true })
            PaperFonts
                .Shared.Width("1 234.50", 10, new TypeStyle(key, bold))
                .ShouldBe(PaperFonts.Shared.Width("1 234.50", 10, new TypeStyle("typewriter", bold)));
        // What it lacks is set in what it has, and what no file of it has in those that ship.
        PaperFonts
            .Shared.Width("12", 10, new TypeStyle(key, Italic: true))
            .ShouldBe(PaperFonts.Shared.Width("12", 10, new TypeStyle(key)));
        PaperFonts
            .Shared.Width("Ж日", 10, new TypeStyle(key))
            .ShouldBe(PaperFonts.Shared.Width("Ж日", 10, new TypeStyle("")));
        Compose(With(House)).Pages[0].Marks.OfType<TextMark>().First(t => !t.Bold).Face.ShouldBe(key, "the same files");

        SvgPainter.Paint(own, _ => null)[0].ShouldContain($"class=\"face-{key}\"");
        PaperFonts.OwnStyle().ShouldContain($".face-{key}{{");
        PaperFonts.File(key, "regular").ShouldBe(House.Regular);
        PaperFonts.File(key, "bold").ShouldBe(House.Bold);
        PaperFonts.Keys.ShouldNotContain(key);

        var pdf = Pdf(own);
        pdf.Length.ShouldBeLessThan(60_000, "only what is used is embedded");
        using var read = PdfDocument.Open(pdf);
        var letters = read.GetPages().SelectMany(p => p.Letters).ToList();
        letters.ShouldAllBe(l => l.FontName!.Contains("Courier", StringComparison.OrdinalIgnoreCase));
        letters.Count.ShouldBeGreaterThan(100);
    }

    [Fact]
    public void What_may_only_be_embedded_whole_is_embedded_whole()
    {
        var part = Pdf(Compose(With(new LayoutTypeface { Name = "House", Regular = Used(0) })));
        var whole = Pdf(Compose(With(new LayoutTypeface { Name = "House", Regular = Used(0x0100) })));
        whole.Length.ShouldBeGreaterThan(part.Length + 10_000);
    }

    public static TheoryData<string, byte[]> Refused() =>
        new()
        {
            { "no typeface", [] },
            { "neither a TrueType nor an OpenType", [.. "%PDF-1.7 and so on and so on"u8] },
            { "several typefaces", [.. "ttcf"u8, .. new byte[40]] },
            { "web pages", [.. "wOF2"u8, .. new byte[40]] },
            { "web pages", [.. "wOFF"u8, .. new byte[40]] },
            { "cannot be read", [0, 1, 0, 0, .. new byte[60]] },
            { "cannot be read", Typewriter()[..400] },
            { "does not allow", Used(0x0002) },
            { "only pictures", Used(0x0200) },
        };

    [Theory]
    [MemberData(nameof(Refused))]
    public void A_file_that_papers_cannot_be_set_in_is_refused_and_does_no_harm(string said, byte[] file)
    {
        var refusal = Should.Throw<RefusalException>(() => PaperFonts.Check(file, "typefaces.house.regular"));
        (refusal.Refusals[0].Field, refusal.Message).ShouldSatisfyAllConditions(
            r => r.Field.ShouldBe("typefaces.house.regular"),
            r => r.Message.ShouldContain(said)
        );
        // One that came into a layout all the same is set in the first family.
        var paper = Compose(With(new LayoutTypeface { Name = "x", Regular = file }));
        paper.Pages[0].Marks.OfType<TextMark>().ShouldAllBe(t => t.Face == "");
    }

    [Fact]
    public void Good_files_of_both_kinds_are_taken()
    {
        foreach (var key in PaperFonts.Keys)
            PaperFonts.Check(PaperFonts.File(key, "regular")!, "x");
        foreach (ushort use in new ushort[] { 0, 4, 8, 0x0100 })
            PaperFonts.Check(Used(use), "x");
    }

    [Fact]
    public void They_go_out_and_in_with_the_layout()
    {
        var layout = With(House);
        LayoutCheck.Of(layout).ShouldBeEmpty();
        var back = LayoutFile.Read(LayoutFile.WriteIndented(layout));
        LayoutFile.Write(back).ShouldBe(LayoutFile.Write(layout));
        back.Typefaces["house"].Bold.ShouldBe(House.Bold);
        back.Typefaces["house"].Italic.ShouldBeNull();
        LayoutFile.Write(ShippedLayouts.Plain).ShouldNotContain("typefaces");
    }

    [Fact]
    public void A_layout_says_where_its_typefaces_are_wrong()
    {
        static string[] Of(Layout layout) => [.. LayoutCheck.Of(layout).Select(r => r.Field)];
        Of(With(House, "barn")).ShouldBe(["face"]);
        Of(With(House with { Name = " " })).ShouldBe(["typefaces.house.name"]);
        Of(With(House with { Regular = [] })).ShouldBe(["typefaces.house.regular"]);
        Of(With(House with { Italic = new byte[1_000_001] })).ShouldBe(["typefaces.house.italic"]);
        Of(
                ShippedLayouts.Plain with
                {
                    Typefaces = new Dictionary<string, LayoutTypeface> { ["clear"] = House, ["2nd"] = House },
                }
            )
            .ShouldBe(["typefaces.clear", "typefaces.2nd"]);
        Of(ShippedLayouts.Plain with { Typefaces = Enumerable.Range(1, 5).ToDictionary(i => $"f{i}", _ => House) })
            .ShouldBe(["typefaces"]);
    }
}
