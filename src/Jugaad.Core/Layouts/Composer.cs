namespace Jugaad.Core.Layouts;

/// <summary>
/// Turns what a paper says and a layout into a display list. What does not fit flows to the next page, with the head of
/// its table repeated and the sum carried over; the totals stay in one piece.
/// </summary>
public sealed class Composer
{
    private readonly Layout _layout;
    private readonly Setting _setting;
    private readonly List<List<Mark>> _pages =
    [
        [],
    ];
    private readonly Dictionary<(string Piece, int Page), Spot> _spots = [];
    private readonly List<BandSpot> _bands = [];
    private readonly double _footHeight;
    private readonly double _footScale;
    private double _headScale = 1;

    /// <summary>Where the next thing stands, from the page's top.</summary>
    private double _y;

    /// <summary>Where the content of the page begins.</summary>
    private double _fresh;

    private Composer(Layout layout, PaperContent content, ITextMeasure measure)
    {
        (_layout, _setting) = (layout, new Setting(layout, content, measure));
        // How much the foot takes does not depend on the page, but for what is on the last only, which is reckoned with.
        // It says which page of how many it is, for which two figures are reckoned with.
        (_setting.Fields.Page, _setting.Fields.Pages) = (88, 88);
        _footHeight = Scaled(() => SetBand.Of(_setting, layout.Of(BandKind.Foot), 1, null).Height, out _footScale);
    }

    /// <summary>
    /// The height of a foot or a later head, with its text made smaller where it would leave too little of the page.
    /// </summary>
    private double Scaled(Func<double> heightOf, out double scale)
    {
        var height = 0.0;
        foreach (var tried in new[] { 1, 0.8, 0.65, 0.5, 0.4 })
        {
            _setting.Scale = scale = tried;
            height = heightOf();
            _setting.Scale = 1;
            if (_layout.IsStrip || height <= (_layout.Height - _layout.Bottom) / 3)
                return height;
        }

        scale = 0.4;
        _setting.Tight.Add("");
        return height;
    }

    private double Limit => _layout.IsStrip ? double.MaxValue : _layout.Height - _layout.Bottom - _footHeight - 2;

    public static DisplayList Compose(Layout layout, PaperContent content, ITextMeasure measure)
    {
        var composer = new Composer(layout, content, measure);
        composer.FirstHead();
        foreach (var kind in new[] { BandKind.Lines, BandKind.Totals, BandKind.Closing })
            composer.Flow(
                SetBand.Of(composer._setting, layout.Of(kind), composer._pages.Count, null),
                kind == BandKind.Totals
            );
        return composer.Finish();
    }

    private void FirstHead()
    {
        var head = SetBand.Of(_setting, _layout.Of(BandKind.FirstHead), 1, null);
        Flow(head, false);
        _fresh = _y;
    }

    private void NextPage()
    {
        _pages.Add([]);
        // What is on the last page only is drawn in the end; its room is kept on each.
        var band = _layout.Of(BandKind.LaterHead);
        var height = Scaled(() => SetBand.Of(_setting, band, _pages.Count, null).Height, out _headScale);
        _fresh = _y = Math.Max(height, band.Pieces.Count == 0 ? _layout.Top : 0);
    }

    private void Flow(SetBand set, bool together)
    {
        var top = _y;
        if (together && top + set.Height > Limit && top > _fresh + 0.5 && set.Height <= Limit - _layout.Top - 20)
        {
            NextPage();
            top = _y;
        }

        foreach (var piece in set.Pieces.Where(p => p.Atoms.Count == 0))
            Kept(piece, top + piece.Piece.Y);
        _bands.Add(new BandSpot(set.Band.Kind, _pages.Count - 1, top, set.Height));
        var (shift, bottom) = (0.0, new Dictionary<Piece, double>());
        for (var i = 0; i < set.Atoms.Count; i++)
        {
            var atom = set.Atoms[i];
            var y = top + atom.Y + shift;
            var room = Limit - (atom.Run?.Carry ?? 0);
            // On a page of its own what is too high stands as it is: there is no better place for it.
            var hangs = set.Band.Hangs(atom.Of!);
            if (
                !hangs
                && y + Math.Max(atom.Height, atom.Needs) > room + 0.001
                && (y > _fresh + 0.5 || _pages.Count == 1)
            )
            {
                y = Break(set.Atoms.Skip(i), bottom);
                shift = y - top - atom.Y;
            }

            Place(atom, y);
            bottom[atom.Of!] = y + atom.Height;
            if (!hangs)
                _y = Math.Max(_y, y + atom.Height);
        }

        _y = top + set.Height + shift;
    }

    /// <summary>
    /// Goes to the next page. Each table that goes on there has its sum carried over and its head repeated, also where
    /// something beside it was what did not fit.
    /// </summary>
    /// <returns>Where what did not fit stands there.</returns>
    private double Break(IEnumerable<Atom> left, Dictionary<Piece, double> bottom)
    {
        var goingOn = left.Where(a => a.Run is not null && bottom.ContainsKey(a.Of!)).DistinctBy(a => a.Of).ToList();
        foreach (var atom in goingOn)
            if (atom.Run!.Carried is { } carried)
                Place(carried(atom.Before) with { Of = atom.Of }, bottom[atom.Of!]);
        NextPage();
        var (top, deepest) = (_y, _y);
        foreach (var atom in goingOn)
        {
            var y = top;
            foreach (var repeated in new[] { atom.Run!.Head, atom.Run.Brought?.Invoke(atom.Before) }.OfType<Atom>())
            {
                Place(repeated with { Of = atom.Of }, y);
                y += repeated.Height;
            }

            deepest = Math.Max(deepest, y);
        }

        return _y = deepest;
    }

    private void Place(Atom atom, double y)
    {
        var (piece, page) = (atom.Of!, _pages.Count - 1);
        Draw(atom, page, y);
        var (x, width) = piece.After.Length > 0 ? Extent(atom, piece) : (piece.X, piece.Width);
        Widen(new Spot(piece.Id, page, x, y, width, atom.Height, !piece.Hidden));
    }

    /// <summary>What follows another has its place by what it says.</summary>
    private (double X, double Width) Extent(Atom atom, Piece piece) =>
        atom.Marks.OfType<TextMark>().FirstOrDefault() is { } text
            ? (text.X, _setting.Measure.Width(text.Text, text.Size, text.Style))
            : (piece.X, piece.Width);

    private void Draw(Atom atom, int page, double y) =>
        _pages[page].AddRange(atom.Marks.Select(m => m.Down(y) with { Piece = atom.Of!.Id, OfLine = atom.Line }));

    /// <summary>A piece that says nothing here is known by the place that it would have.</summary>
    private void Kept(SetPiece set, double y)
    {
        var piece = set.Piece;
        Widen(new Spot(piece.Id, _pages.Count - 1, set.X, y, piece.Width, piece.Height, false));
    }

    private void Widen(Spot spot)
    {
        var key = (spot.Piece, spot.Page);
        if (!_spots.TryGetValue(key, out var before))
        {
            _spots[key] = spot;
            return;
        }

        var (x, y) = (Math.Min(before.X, spot.X), Math.Min(before.Y, spot.Y));
        _spots[key] = before with
        {
            X = x,
            Y = y,
            Width = Math.Max(before.X + before.Width, spot.X + spot.Width) - x,
            Height = Math.Max(before.Y + before.Height, spot.Y + spot.Height) - y,
            Shown = before.Shown || spot.Shown,
        };
    }

    private DisplayList Finish()
    {
        var content = _setting.Content;
        var height = _layout.IsStrip ? Math.Max(40, _y + _footHeight + _layout.Bottom) : _layout.Height;
        for (var page = 0; page < _pages.Count; page++)
        {
            (_setting.Fields.Page, _setting.Fields.Pages) = (page + 1, _pages.Count);
            var last = page == _pages.Count - 1;
            _setting.Scale = _headScale;
            if (page > 0)
                Stand(SetBand.Of(_setting, _layout.Of(BandKind.LaterHead), page + 1, last), page, 0);
            _setting.Scale = _footScale;
            var foot = SetBand.Of(_setting, _layout.Of(BandKind.Foot), page + 1, last);
            Stand(foot, page, height - _layout.Bottom - _footHeight);
        }

        return new DisplayList(
            $"{content.Heading} {content.Number}".Trim(),
            _layout.Width,
            height,
            [.. _pages.Select((marks, page) => new PaperPage([.. Grounds(page, height), .. Layered(marks)]))]
        )
        {
            Language = content.Words.Language,
            Pictures = _layout.Pictures,
            Spots = [.. _spots.Values],
            Bands = _bands,
            Said = _setting.Fields.Said,
            Tight = [.. _setting.Tight],
        };
    }

    /// <summary>A band that does not flow.</summary>
    private void Stand(SetBand set, int page, double top)
    {
        _bands.Add(new BandSpot(set.Band.Kind, page, top, set.Height));
        foreach (var atom in set.Atoms)
        {
            Draw(atom, page, top + atom.Y);
            var piece = atom.Of!;
            var (x, width) = piece.After.Length > 0 ? Extent(atom, piece) : (piece.X, piece.Width);
            Widen(new Spot(piece.Id, page, x, top + atom.Y, width, atom.Height, !piece.Hidden));
        }

        foreach (var piece in set.Pieces.Where(p => p.Atoms.Count == 0))
            Widen(
                new Spot(
                    piece.Piece.Id,
                    page,
                    piece.X,
                    top + piece.Piece.Y,
                    piece.Piece.Width,
                    piece.Piece.Height,
                    false
                )
            );
    }

    private IEnumerable<Mark> Grounds(int page, double height)
    {
        if (
            _layout.Ground is { } ground
            && _layout.Pictures.ContainsKey(ground.Picture)
            && (page == 0 || !ground.FirstOnly)
            && !(ground.MailOnly && _setting.Content.ForPrint)
        )
            yield return new PictureMark(ground.Picture, 0, 0, _layout.Width, height);
    }

    /// <summary>Grounds, frames and pictures lie beneath what is written.</summary>
    private static IEnumerable<Mark> Layered(List<Mark> marks) =>
        marks.Where(m => m is BoxMark).Concat(marks.Where(m => m is not BoxMark));
}
