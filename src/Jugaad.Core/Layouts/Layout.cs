namespace Jugaad.Core.Layouts;

/// <summary>The design of a paper, as data: sizes in millimetres, type in points.</summary>
public sealed record Layout
{
    /// <summary>The layout that ships, for A4 and all kinds of document.</summary>
    public static Layout BuiltIn { get; } = new();

    public double Width { get; init; } = 210;

    public double Height { get; init; } = 297;

    public double Left { get; init; } = 20;

    public double Right { get; init; } = 190;

    public double Top { get; init; } = 16;

    /// <summary>Where the footer's rule is; nothing else goes below.</summary>
    public double FootTop { get; init; } = 274;

    public double LogoWidth { get; init; } = 46;

    public double LogoHeight { get; init; } = 20;

    public double SignatureWidth { get; init; } = 50;

    public double SignatureHeight { get; init; } = 18;

    /// <summary>The side of the square code that fills in a transfer; 0 for none.</summary>
    public double TransferCodeSize { get; init; } = 27;

    /// <summary>Where the addressee begins, so that it shows in a window envelope.</summary>
    public double AddresseeTop { get; init; } = 52;

    public double HeadingTop { get; init; } = 92;

    public double BodySize { get; init; } = 9.5;

    public double SmallSize { get; init; } = 8;

    public double HeadingSize { get; init; } = 19;

    /// <summary>From one line of text to the next.</summary>
    public double Leading { get; init; } = 4.5;

    /// <summary>The right edges of the figure columns; the text takes what is left of them.</summary>
    public double QuantityRight { get; init; } = 106;

    public double PriceRight { get; init; } = 131;

    public double DiscountRight { get; init; } = 148;

    public double TaxRight { get; init; } = 165;
}
