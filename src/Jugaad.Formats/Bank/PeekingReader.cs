namespace Jugaad.Formats.Bank;

/// <summary>Reads characters with a look at those to come.</summary>
internal sealed class PeekingReader(TextReader inner) : TextReader
{
    private readonly char[] _ahead = new char[4096];
    private int _at;
    private int _filled;

    public override int Peek() => Fill(1) ? _ahead[_at] : -1;

    public override int Read() => Fill(1) ? _ahead[_at++] : -1;

    /// <summary>Whether these characters come next.</summary>
    internal bool StartsWith(string text) => Fill(text.Length) && _ahead.AsSpan(_at, text.Length).SequenceEqual(text);

    internal void Skip(int count)
    {
        if (Fill(count))
            _at += count;
    }

    /// <summary>Has at least so many characters ready, if there are.</summary>
    private bool Fill(int count)
    {
        if (_filled - _at >= count)
            return true;
        Array.Copy(_ahead, _at, _ahead, 0, _filled - _at);
        (_filled, _at) = (_filled - _at, 0);
        while (_filled < count && inner.Read(_ahead, _filled, _ahead.Length - _filled) is > 0 and var read)
            _filled += read;
        return _filled >= count;
    }
}
