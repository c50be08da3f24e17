using Jugaad.Core.Layouts;
using Jugaad.Desk.Outside;

namespace Jugaad.Formats.Papers;

/// <summary>The pictures of one file, each decoded once.</summary>
internal sealed class PaintedPictures(PaperPictures business) : IDisposable
{
    private readonly Dictionary<byte[], PaintedPicture?> _decoded = new(ReferenceEqualityComparer.Instance);

    /// <summary>A paper's own picture goes before the business's of today; null where there is none.</summary>
    internal PaintedPicture? Of(DisplayList paper, string key)
    {
        var data = paper.Pictures.TryGetValue(key, out var own) ? own.Data : business.Of(key);
        if (data is null)
            return null;
        if (!_decoded.TryGetValue(data, out var image))
            _decoded[data] = image = PaintedPicture.Of(data);
        return image;
    }

    public void Dispose()
    {
        foreach (var image in _decoded.Values)
            image?.Dispose();
    }
}
