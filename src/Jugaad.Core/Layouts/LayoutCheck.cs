using System.Text.RegularExpressions;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Layouts;

/// <summary>What a layout must be to be used at all, whatever it is filled with.</summary>
public static partial class LayoutCheck
{
    private const double Least = 30;
    private const double Largest = 460;
    private const int MostPieces = 300;
    private const int MostPicture = 2_000_000;
    private const int MostTypeface = 1_000_000;
    private const int MostTypefaces = 4;

    /// <summary>What is wrong, each with its place in the file; nothing where it can be used.</summary>
    public static IReadOnlyList<Refusal> Of(Layout layout)
    {
        var wrong = new List<Refusal>();
        void Wrong(string place, string words) => wrong.Add(new Refusal(place, $"{place}: {words}"));
        if (layout.Version != Layout.FormatVersion)
            Wrong("version", $"this program reads layouts of version {Layout.FormatVersion}.");
        if (layout.Name.Trim().Length is 0 or > 60)
            Wrong("name", "give it a name of at most 60 characters.");
        if (layout.About.Length > 300)
            Wrong("about", "at most 300 characters.");
        Sizes(layout, Wrong);
        Styles(layout, Wrong);
        Pictures(layout, Wrong);
        Faces(layout, Wrong);
        Bands(layout, Wrong);
        return wrong;
    }

    private static void Sizes(Layout layout, Action<string, string> wrong)
    {
        if (!In(layout.Width, Least, Largest))
            wrong("width", $"a page is between {Least} and {Largest} mm wide.");
        if (layout.Height != 0 && !In(layout.Height, Least, Largest))
            wrong(
                "height",
                $"a page is between {Least} and {Largest} mm high; 0 for a strip as long as it needs to be."
            );
        foreach (
            var (name, margin) in new[]
            {
                ("left", layout.Left),
                ("top", layout.Top),
                ("right", layout.Right),
                ("bottom", layout.Bottom),
            }
        )
            if (!In(margin, 0, 100))
                wrong(name, "a margin is between 0 and 100 mm.");
        if (layout.Left + layout.Right > layout.Width - 20)
            wrong("left", "the margins leave less than 20 mm between them.");
        if (!layout.IsStrip && layout.FootTop - Math.Max(layout.Of(BandKind.LaterHead).Reach, layout.Top) < 40)
            wrong("height", "the head of later pages and the foot leave less than 40 mm for what is between them.");
        foreach (
            var (name, guides) in new[] { ("guidesAcross", layout.GuidesAcross), ("guidesDown", layout.GuidesDown) }
        )
            if (guides.Count > 100 || guides.Any(g => !In(g, 0, Largest)))
                wrong(name, "at most 100 guides, each on the page.");
    }

    private static void Styles(Layout layout, Action<string, string> wrong)
    {
        if (!Knows(layout, layout.Face))
            wrong("face", FacesOf(layout));
        if (!In(layout.Size, 4, 72))
            wrong("size", "type is between 4 and 72 points.");
        if (Ink.Of(layout.Accent) is null || layout.Accent.Length == 0)
            wrong("accent", Inks);
        if (layout.SecondLanguage.Length > 0 && !Customer.IsLanguage(layout.SecondLanguage))
            wrong("secondLanguage", "the code of a language is two small letters.");
    }

    private static void Pictures(Layout layout, Action<string, string> wrong)
    {
        foreach (var (key, picture) in layout.Pictures)
        {
            if (!IdForm().IsMatch(key) || key is PaperPicture.Logo or PaperPicture.Signature)
                wrong($"pictures.{key}", "call it by letters, digits and hyphens, other than logo and signature.");
            if (!PictureType.Taken.Contains(picture.Type))
                wrong($"pictures.{key}.type", $"is one of {string.Join(", ", PictureType.Taken)}.");
            if (picture.Data.Length is 0 or > MostPicture)
                wrong($"pictures.{key}.data", $"a picture has at most {MostPicture / 1_000_000} MB.");
        }

        if (layout.Ground is { } ground && !layout.Pictures.ContainsKey(ground.Picture))
            wrong("ground.picture", "there is no picture of that name in the layout.");
    }

    private static void Faces(Layout layout, Action<string, string> wrong)
    {
        if (layout.Typefaces.Count > MostTypefaces)
            wrong("typefaces", $"a layout has at most {MostTypefaces} typefaces of its own.");
        foreach (var (key, typeface) in layout.Typefaces)
        {
            var place = $"typefaces.{key}";
            if (!IdForm().IsMatch(key) || Layouts.Typefaces.Knows(key))
                wrong(place, "call it by letters, digits and hyphens, other than the families that ship.");
            if (typeface.Name.Trim().Length is 0 or > 60)
                wrong($"{place}.name", "give it a name of up to 60 letters.");
            foreach (var (entry, file) in typeface.Files())
                if (file.Length is 0 or > MostTypeface)
                    wrong($"{place}.{entry}", $"a file of a typeface has at most {MostTypeface / 1_000} kB.");
        }
    }

    private static void Bands(Layout layout, Action<string, string> wrong)
    {
        var (kinds, ids) = (new HashSet<BandKind>(), new HashSet<string>());
        if (layout.Pieces.Count() > MostPieces)
            wrong("bands", $"a layout has at most {MostPieces} pieces.");
        for (var b = 0; b < layout.Bands.Count; b++)
        {
            var (band, place) = (layout.Bands[b], $"bands[{b}]");
            if (!kinds.Add(band.Kind))
                wrong($"{place}.kind", "each band is there once.");
            var most = layout.IsStrip ? Largest : layout.Height;
            if (!In(band.Height, 0, most))
                wrong($"{place}.height", "a band is no higher than the page.");
            for (var p = 0; p < band.Pieces.Count; p++)
            {
                var piece = band.Pieces[p];
                if (!IdForm().IsMatch(piece.Id) || !ids.Add(piece.Id))
                    wrong(
                        $"{place}.pieces[{p}].id",
                        "each piece has an id of its own, of letters, digits and hyphens, that begins with a letter."
                    );
                if (!layout.IsStrip && band.Kind == BandKind.FirstHead && piece.Bottom > layout.Height)
                    wrong($"{place}.pieces[{p}].y", "it lies below the page.");
                Piece(layout, band, piece, (name, words) => wrong($"{place}.pieces[{p}].{name}", words));
            }
        }
    }

    private static void Piece(Layout layout, Band band, Piece piece, Action<string, string> wrong)
    {
        Place(layout, piece, wrong);
        if (!Knows(layout, piece.Face))
            wrong("face", FacesOf(layout));
        if (piece.Size != 0 && !In(piece.Size, 4, 72))
            wrong("size", "type is between 4 and 72 points; 0 for the layout's.");
        if (piece.Leading != 0 && !In(piece.Leading, 1, 60))
            wrong("leading", "from line to line are 1 to 60 mm; 0 for what suits the size.");
        if (!In(piece.Stroke, 0, 10))
            wrong("stroke", "a line is at most 10 mm thick.");
        if (Ink.Of(piece.Colour) is null)
            wrong("colour", Inks);
        if (Ink.Of(piece.Background) is null)
            wrong("background", Inks);
        Says(layout, band, piece, wrong);
        When(piece.When, wrong);
        if (piece.Kind == PieceKind.Table)
        {
            if (piece.Table is { } table)
                Table(piece, table, (name, words) => wrong($"table.{name}", words));
            else
                wrong("table", "a table says of what it is.");
        }
    }

    private static void Place(Layout layout, Piece piece, Action<string, string> wrong)
    {
        if (!In(piece.X, 0, layout.Width) || !In(piece.Y, 0, Largest))
            wrong("x", "it begins outside of the page.");
        else if (piece.After.Length == 0 && piece.X + piece.Width > layout.Width + 0.01)
            wrong("width", "it reaches over the right edge of the page.");
        if (!In(piece.Width, 0, Largest) || !In(piece.Height, 0, Largest))
            wrong("height", "its width and height are not below 0 mm.");
        if (!In(piece.Below, 0, 100))
            wrong("below", "at most 100 mm of room below it.");
        var flat = piece.Kind == PieceKind.Rule;
        if (!flat && piece.After.Length == 0 && piece.Width < 2)
            wrong("width", "it is at least 2 mm wide.");
        if (flat && piece.Width <= 0 && piece.Height <= 0)
            wrong("width", "a rule has a length.");
    }

    private static void Says(Layout layout, Band band, Piece piece, Action<string, string> wrong)
    {
        if (piece.Text.Length > 2000 || piece.Lines.Count > 60 || piece.Lines.Any(l => l.Length > 500))
            wrong("text", "at most 2000 characters, and 60 lines of 500.");
        foreach (var text in piece.Lines.Prepend(piece.Text))
            Template(text, wrong);
        if (piece.Kind == PieceKind.Field && !PaperFields.Knows(piece.Field))
            wrong("field", $"“{piece.Field}” is no field of papers.");
        if (piece.Kind == PieceKind.Code && piece.Field.Length > 0 && !PaperFields.Knows(piece.Field))
            wrong("field", $"“{piece.Field}” is no field of papers.");
        if (
            piece.Kind == PieceKind.Picture
            && piece.Picture is not (PaperPicture.Logo or PaperPicture.Signature)
            && !layout.Pictures.ContainsKey(piece.Picture)
        )
            wrong("picture", "it is logo, signature, or one of the layout's pictures.");
        if (
            piece.After.Length > 0
            && !band.Pieces.Any(p => p.Id == piece.After && p.After.Length == 0 && p.Id != piece.Id)
        )
            wrong("after", "it follows a piece of its own band that follows none itself.");
        if (piece.Group.Length > 40)
            wrong("group", "at most 40 characters.");
    }

    private static void Template(string text, Action<string, string> wrong)
    {
        var names = PaperFields.NamesIn(text).ToList();
        foreach (var name in names.Where(n => !PaperFields.Knows(n)))
            wrong("text", $"“{name}” is no field of papers.");
        if (Opening().Count(text) != names.Count)
            wrong("text", "a field stands between two braces before and two after it, such as {{ Number }}.");
    }

    private static void When(ShownWhen when, Action<string, string> wrong)
    {
        if (when.Has.Length > 0 && when.Has.TrimStart('!') is var name && name != "Totals" && !PaperFields.Knows(name))
            wrong("when.has", $"“{name}” is no field of papers.");
        if (when.Kinds.Any(k => k.Length == 0 || !PaperKinds.All.Contains(k.TrimStart('!'))))
            wrong("when.kinds", $"the kinds of paper are {string.Join(", ", PaperKinds.All)}.");
        if (when.Languages.Any(l => !Customer.IsLanguage(l)))
            wrong("when.languages", "the code of a language is two small letters.");
        if (when.Currencies.Any(c => c.Length != 3 || !c.All(char.IsAsciiLetterUpper)))
            wrong("when.currencies", "a currency has a code of three capitals.");
        if (when.Customer is not ("" or "business" or "person"))
            wrong("when.customer", "it is business or person.");
    }

    private static void Table(Piece piece, PieceTable table, Action<string, string> wrong)
    {
        var known = TableColumns.Of(table.Of);
        if (table.Columns.Count == 0 && table.Of != TableOf.Facts)
            wrong("columns", "a table has columns.");
        if (table.Columns.Select(c => c.Key).Distinct().Count() < table.Columns.Count)
            wrong("columns", "each column is there once.");
        for (var c = 0; c < table.Columns.Count; c++)
        {
            var column = table.Columns[c];
            if (!known.Contains(column.Key))
                wrong($"columns[{c}].key", $"the columns of this table are {string.Join(", ", known)}.");
            if (!In(column.Width, 0, Largest) || !In(column.Gap, 0, Largest) || column.Title.Length > 60)
                wrong($"columns[{c}].width", "a column has a width, and a title of at most 60 characters.");
            if (column.Size != 0 && !In(column.Size, 4, 72))
                wrong($"columns[{c}].size", "type is between 4 and 72 points; 0 for the table's.");
            if (Ink.Of(column.Colour) is null)
                wrong($"columns[{c}].colour", Inks);
        }

        if (table.Columns.Sum(c => c.Width + c.Gap) > piece.Width + 0.01)
            wrong("columns", "together they are wider than the table.");
        if (table.Columns.Count > 0 && table.Columns.Count(c => c.Width == 0) > 1)
            wrong("columns", "one column at most takes what the others leave (a width of 0).");
        if (table.PerRow is < 1 or > 12)
            wrong("perRow", "1 to 12 facts stand beside each other.");
        if (!In(table.RowGap, 0, 30) || table.HeadSize != 0 && !In(table.HeadSize, 4, 72))
            wrong("rowGap", "up to 30 mm between rows, and heads of 4 to 72 points.");
        if (table.Sum.Size != 0 && !In(table.Sum.Size, 4, 72))
            wrong("sum.size", "type is between 4 and 72 points; 0 for the table's.");
        foreach (
            var (name, colour) in new[]
            {
                ("headColour", table.HeadColour),
                ("striped", table.Striped),
                ("sum.colour", table.Sum.Colour),
            }
        )
            if (Ink.Of(colour) is null)
                wrong(name, Inks);
    }

    private static bool Knows(Layout layout, string face) =>
        Layouts.Typefaces.Knows(face) || layout.Typefaces.ContainsKey(face);

    private static string FacesOf(Layout layout) =>
        $"the families are {string.Join(", ", Layouts.Typefaces.All.Select(f => f.Key).Concat(layout.Typefaces.Keys))}.";

    private static string Inks => $"a colour is {string.Join(", ", Ink.Named)}, or such as #B3261E.";

    private static bool In(double value, double least, double most) =>
        double.IsFinite(value) && value >= least && value <= most;

    [GeneratedRegex("^[A-Za-z][A-Za-z0-9-]{0,39}$")]
    private static partial Regex IdForm();

    [GeneratedRegex(@"\{\{|\{%")]
    private static partial Regex Opening();
}
