namespace Jugaad.Core.EInvoicing;

/// <summary>The two syntaxes of the standard.</summary>
public enum EInvoiceSyntax
{
    /// <summary>UBL 2.1, ISO/IEC 19845.</summary>
    Ubl,

    /// <summary>The cross industry invoice of UN/CEFACT, D16B.</summary>
    Cii,
}
