namespace Jugaad.Core.Amounts;

/// <summary>Where tax is rounded.</summary>
public enum TaxRounding
{
    /// <summary>Once for each treatment.</summary>
    Document,

    /// <summary>On each line and charge.</summary>
    Line,
}
