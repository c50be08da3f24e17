namespace Jugaad.Desk.Drafting;

/// <summary>Drafts, prices and taxes proposed for them, the shelf, starters, copies.</summary>
internal static class DraftingRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(MastersLoader),
        typeof(Drafts),
        typeof(UnsaidPlaces),
        typeof(Pricing),
        typeof(Copies),
        typeof(StartersDesk),
        typeof(Shelf),
        typeof(CustomerChange),
    ];
}
