using Jugaad.Core.Amounts;

namespace Jugaad.Desk.Post;

/// <summary>Something that a letter asks for.</summary>
/// <param name="Asked">Minor units: what is open of it, less what is promised, planned or in dispute.</param>
public sealed record AskedItem(
    int ItemId,
    string Number,
    DateOnly Date,
    DateOnly Due,
    long Asked,
    Currency Currency,
    int? DocumentId
);
