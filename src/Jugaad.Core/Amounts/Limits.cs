namespace Jugaad.Core.Amounts;

/// <summary>How large a figure may be, so that every computation stays exact in whole numbers.</summary>
public static class Limits
{
    /// <summary>Largest amount of a line, a charge or a document, in minor units.</summary>
    public const long AmountMinor = 999_999_999_999_999;

    /// <summary>Largest quantity and largest unit price, either sign.</summary>
    public const decimal Figure = 999_999_999.999999m;

    /// <summary>Decimals that a quantity or a unit price may have.</summary>
    public const int FigureDecimals = 6;

    /// <summary>Decimals that a percentage may have.</summary>
    public const int PercentDecimals = 4;

    /// <summary>
    /// Components that one tax treatment may have; with rates up to 100 percent the taxes then still fit.
    /// </summary>
    public const int Components = 10;

    /// <summary>Lines that one document may have, and charges.</summary>
    public const int Lines = 2_000;

    /// <summary>Characters of a note.</summary>
    public const int Note = 20_000;
}
