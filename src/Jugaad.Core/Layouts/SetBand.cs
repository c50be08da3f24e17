namespace Jugaad.Core.Layouts;

/// <summary>A band with its pieces set and moved down where something above them grew.</summary>
internal sealed record SetBand(Band Band, double Height, IReadOnlyList<Atom> Atoms, IReadOnlyList<SetPiece> Pieces)
{
    /// <param name="page">From 1 on.</param>
    /// <param name="last">Whether the page is the last; null where that is not known yet.</param>
    internal static SetBand Of(Setting setting, Band band, int page, bool? last)
    {
        var set = new Dictionary<string, SetPiece>();
        var moved = new List<(Piece Piece, double Shift, double Grown)>();
        var (atoms, pieces) = (new List<Atom>(), new List<SetPiece>());
        var (designed, needed) = (0.0, 0.0);
        // What follows another on its line is set after it; what is below is moved by what is above.
        foreach (var piece in band.Pieces.OrderBy(p => p.After.Length > 0).ThenBy(p => p.Y))
        {
            var shows = setting.Shows(piece, page, last);
            var one = set[piece.Id] = shows ? PieceSetter.Set(setting, piece, set) : PieceSetter.Nothing(piece);
            if (!shows)
            {
                pieces.Add(one);
                continue;
            }

            var shift =
                piece.After.Length > 0 && moved.Find(m => m.Piece.Id == piece.After) is { Piece: not null } first
                    ? first.Shift
                    : ShiftOf(piece, moved);
            moved.Add((piece, shift, one.Height - piece.Height));
            pieces.Add(one);
            atoms.AddRange(one.Atoms.Select(a => a with { Y = a.Y + piece.Y + shift, Of = piece }));
            if (band.Hangs(piece))
                continue;
            designed = Math.Max(designed, piece.Bottom);
            needed = Math.Max(needed, piece.Y + shift + one.Height);
        }

        // The room that the band leaves below its lowest piece stays.
        var height = moved.Count == 0 ? 0 : Math.Max(0, needed + Math.Max(0, band.Height - designed));
        if (band.Kind is BandKind.FirstHead or BandKind.LaterHead or BandKind.Foot)
            height = Math.Max(height, band.Height);
        else if (atoms.Count == 0)
            height = 0;
        return new SetBand(band, height, [.. atoms.OrderBy(a => a.Y)], pieces);
    }

    /// <summary>
    /// By how much a piece moves: with the lowest of what is above it, and so far that it is over none of the rest. Only
    /// a piece that closes up moves upwards.
    /// </summary>
    private static double ShiftOf(Piece piece, List<(Piece Piece, double Shift, double Grown)> set)
    {
        if (piece.Fixed)
            return 0;
        var above = set.Where(o =>
                o.Piece.Bottom <= piece.Y + 0.01
                && o.Piece.X < piece.X + piece.Width - 0.01
                && piece.X < o.Piece.X + o.Piece.Width - 0.01
            )
            .ToList();
        if (above.Count == 0)
            return 0;
        var lowest = above.Max(o => o.Piece.Bottom);
        var shift = above.Where(o => o.Piece.Bottom > lowest - 0.01).Max(o => o.Shift + o.Grown);
        foreach (var (other, moved, grown) in above)
            shift = Math.Max(shift, other.Bottom + moved + grown + Math.Min(piece.Y - other.Bottom, Apart) - piece.Y);
        return piece.ClosesUp ? shift : Math.Max(0, shift);
    }

    /// <summary>How near one piece may come to another above it, where they were drawn further apart.</summary>
    private const double Apart = 2;
}
