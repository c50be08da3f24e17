namespace Jugaad.Core.Taxes;

/// <summary>The tax categories that we use, with the letters of UN/CEFACT code list 5305.</summary>
public enum TaxCategory
{
    /// <summary>S: taxed at a rate, the standard or a reduced one.</summary>
    Standard,

    /// <summary>Z: taxed at zero percent.</summary>
    Zero,

    /// <summary>E: exempt.</summary>
    Exempt,

    /// <summary>AE: reverse charge, the buyer accounts for the tax.</summary>
    ReverseCharge,

    /// <summary>K: goods to a business in another country of the union.</summary>
    IntraUnion,

    /// <summary>G: export outside the union.</summary>
    Export,

    /// <summary>O: outside the scope of the tax.</summary>
    OutOfScope,
}

/// <summary>Between a category and its letters.</summary>
public static class TaxCategories
{
    private static readonly (TaxCategory Category, string Letters, string Word)[] Rows =
    [
        (TaxCategory.Standard, "S", "taxed"),
        (TaxCategory.Zero, "Z", "zero rated"),
        (TaxCategory.Exempt, "E", "exempt"),
        (TaxCategory.ReverseCharge, "AE", "reverse charge"),
        (TaxCategory.IntraUnion, "K", "goods within the union"),
        (TaxCategory.Export, "G", "export"),
        (TaxCategory.OutOfScope, "O", "outside the scope of tax"),
    ];

    public static string Letters(this TaxCategory category) => Rows[(int)category].Letters;

    public static string Word(this TaxCategory category) => Rows[(int)category].Word;

    /// <exception cref="RefusalException">When the letters name no category.</exception>
    public static TaxCategory Of(string letters, string field)
    {
        foreach (var row in Rows)
            if (row.Letters == letters)
                return row.Category;
        throw new RefusalException(
            field,
            $"“{letters}” is not a tax category. Use one of {string.Join(", ", Rows.Select(r => r.Letters))}."
        );
    }
}
