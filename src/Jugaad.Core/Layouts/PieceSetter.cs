using System.Text;

namespace Jugaad.Core.Layouts;

/// <summary>Sets a piece with what it says.</summary>
internal static class PieceSetter
{
    /// <summary>Text may become this part of its size before it is said to be tight.</summary>
    private const double Smallest = 0.5;

    /// <summary>Bytes that a square code may say; more of them could not be told apart at any size of ours.</summary>
    private const int MostInCode = 800;

    /// <param name="before">The pieces of the band that are set already, by their ids.</param>
    internal static SetPiece Set(Setting setting, Piece piece, IReadOnlyDictionary<string, SetPiece> before)
    {
        setting.Fields.Silent = piece.Hidden;
        var set = piece.Kind switch
        {
            PieceKind.Words => Text(setting, piece, [setting.Fields.Fill(piece.Text)], before),
            PieceKind.Field => Text(setting, piece, [setting.Fields[piece.Field]], before),
            PieceKind.PageCount => Text(
                setting,
                piece,
                [setting.Content.Words.Fill(PaperWord.PageOf, setting.Fields.Page, setting.Fields.Pages)],
                before
            ),
            PieceKind.Block => Text(setting, piece, BlockLines(setting, piece), before),
            PieceKind.Table when piece.Table is { } table => TableSetter.Set(setting, piece, table),
            PieceKind.Picture => Picture(setting, piece),
            PieceKind.Rule => Rule(setting, piece),
            PieceKind.Frame => Frame(setting, piece),
            PieceKind.Code => Code(setting, piece),
            _ => Nothing(piece),
        };
        if (!piece.Hidden)
            return Backed(setting, set);
        return set with { Atoms = [.. set.Atoms.Select(a => a with { Marks = [] })], Shown = false };
    }

    internal static SetPiece Nothing(Piece piece) =>
        new(piece, piece.ClosesUp ? 0 : piece.Height, [], false) { TextEnds = piece.X };

    /// <summary>Each of its lines may say nothing; a blank line stands only between two that say something.</summary>
    private static List<string> BlockLines(Setting setting, Piece piece)
    {
        var lines = new List<string>();
        foreach (var line in piece.Lines)
        {
            if (line.Length == 0)
            {
                if (lines.Count > 0 && lines[^1].Length > 0)
                    lines.Add("");
                continue;
            }

            var filled = setting.Fields.Fill(line);
            if (filled.Length > 0)
                lines.Add(filled);
        }

        while (lines.Count > 0 && lines[^1].Length == 0)
            lines.RemoveAt(lines.Count - 1);
        return lines;
    }

    private static SetPiece Text(
        Setting setting,
        Piece piece,
        IReadOnlyList<string> texts,
        IReadOnlyDictionary<string, SetPiece> before
    )
    {
        if (texts.All(t => t.Length == 0))
            return Nothing(piece);
        var (x, width) = (piece.X, piece.Width);
        if (before.TryGetValue(piece.After, out var first))
        {
            x = first.Atoms.Count > 0 ? first.TextEnds + piece.X : first.Piece.X;
            width = Math.Max(setting.Layout.Width - setting.Layout.Right - x, 5);
        }

        var style = setting.StyleOf(piece);
        var size = setting.SizeOf(piece);
        var leading = setting.LeadingOf(piece, size);
        var lines = Wrapped(setting, texts, width, size, style);
        if (piece.Shrinks)
        {
            var scale = 1.0;
            while (lines.Count * leading * scale > Math.Max(piece.Height, leading * scale) + 0.01 && scale > Smallest)
            {
                scale -= 0.05;
                lines = Wrapped(setting, texts, width, size * scale, style);
            }

            if (scale <= Smallest)
                setting.Tight.Add(piece.Id);
            (size, leading) = (size * scale, leading * scale);
        }

        var ink = setting.Layout.InkOf(piece.Colour);
        var at = piece.Align switch
        {
            Align.Right => x + width,
            Align.Middle => x + (width / 2),
            _ => x,
        };
        var atoms = lines.Select(
            (line, i) =>
                new Atom(
                    i * leading,
                    leading,
                    line.Length == 0
                        ? []
                        :
                        [
                            new TextMark(
                                at,
                                Setting.Baseline(leading, size),
                                line,
                                size,
                                piece.Bold,
                                ink,
                                (Anchor)piece.Align
                            )
                            {
                                Face = style.Face,
                                Italic = piece.Italic,
                            },
                        ]
                )
        );
        return Tall(piece, lines.Count * leading, [.. atoms]) with
        {
            X = x,
            TextEnds = at + (piece.Align == Align.Left ? setting.Measure.Width(lines[^1], size, style) : 0),
        };
    }

    private static List<string> Wrapped(
        Setting setting,
        IReadOnlyList<string> texts,
        double width,
        double size,
        TypeStyle style
    ) => [.. texts.SelectMany(t => TextFlow.Wrap(t, width, size, style, setting.Measure))];

    internal static SetPiece Tall(Piece piece, double height, IReadOnlyList<Atom> atoms) =>
        new(piece, piece.ClosesUp ? height + piece.Below : Math.Max(height + piece.Below, piece.Height), atoms, true);

    private static SetPiece Picture(Setting setting, Piece piece)
    {
        var there = piece.Picture switch
        {
            PaperPicture.Logo => setting.Content.HasLogo,
            PaperPicture.Signature => setting.Content.HasSignature,
            var own => setting.Layout.Pictures.ContainsKey(own),
        };
        return there
            ? Whole(piece, [new PictureMark(piece.Picture, piece.X, 0, piece.Width, piece.Height)])
            : Nothing(piece);
    }

    private static SetPiece Rule(Setting setting, Piece piece)
    {
        var (x2, y2) = piece.Height > piece.Width ? (piece.X, piece.Height) : (piece.X + piece.Width, 0);
        return Whole(
            piece,
            [
                new RuleMark(
                    piece.X,
                    0,
                    x2,
                    y2,
                    piece.Stroke > 0 ? piece.Stroke : 0.2,
                    setting.Layout.InkOf(piece.Colour)
                ),
            ]
        );
    }

    private static SetPiece Frame(Setting setting, Piece piece)
    {
        var marks = new List<Mark>();
        if (piece.Stroke > 0)
            marks.Add(
                new BoxMark(piece.X, 0, piece.Width, piece.Height, setting.Layout.InkOf(piece.Colour))
                {
                    Line = piece.Stroke,
                }
            );
        return Whole(piece, marks);
    }

    private static SetPiece Code(Setting setting, Piece piece)
    {
        var text = piece.Field.Length > 0 ? setting.Fields[piece.Field] : setting.Fields.Fill(piece.Text);
        if (text.Length == 0)
            return Nothing(piece);
        // What no reader could read is left away, and said.
        if (Encoding.UTF8.GetByteCount(text) > MostInCode)
        {
            setting.Tight.Add(piece.Id);
            return Nothing(piece);
        }

        if (!piece.Stripes)
            return Whole(piece, [new CodeMark(piece.X, 0, Math.Min(piece.Width, piece.Height), text)]);
        // Stripes know plain letters only.
        return text.All(c => c is >= ' ' and <= '~') && text.Length <= 80
            ? Whole(piece, [new StripesMark(piece.X, 0, piece.Width, piece.Height, text)])
            : Nothing(piece);
    }

    private static SetPiece Whole(Piece piece, IReadOnlyList<Mark> marks) =>
        new(piece, piece.Height, [new Atom(0, piece.Height, marks)], true) { TextEnds = piece.X + piece.Width };

    private static SetPiece Backed(Setting setting, SetPiece set)
    {
        if (set.Piece.Background.Length == 0 || !set.Shown)
            return set;
        var ink = setting.Layout.InkOf(set.Piece.Background);
        return set with
        {
            Atoms =
            [
                .. set.Atoms.Select(a =>
                    a with
                    {
                        Marks = [new BoxMark(set.X, 0, set.Piece.Width, a.Height, ink), .. a.Marks],
                    }
                ),
            ],
        };
    }
}
