namespace Jugaad.Core.EInvoicing;

/// <summary>How far an e-invoice has got, from the tray to what its receiver said.</summary>
public enum EInvoiceFate
{
    /// <summary>In the tray, or being handed over.</summary>
    OnItsWay,

    /// <summary>It could not be handed over, or nobody knows whether it was.</summary>
    Stuck,

    /// <summary>Handed over; the receiver has not answered.</summary>
    Arrived,
    InWork,
    Taken,
    Refused,
    Paid,

    /// <summary>Taken back before it went.</summary>
    Withdrawn,
}

public static class EInvoiceFates
{
    /// <param name="answer">The last that counts; null where the receiver has not answered.</param>
    public static EInvoiceFate Of(AnswerKind? answer) =>
        answer switch
        {
            AnswerKind.InWork => EInvoiceFate.InWork,
            AnswerKind.Taken => EInvoiceFate.Taken,
            AnswerKind.Refused => EInvoiceFate.Refused,
            AnswerKind.Paid => EInvoiceFate.Paid,
            _ => EInvoiceFate.Arrived,
        };

    public static string Word(this EInvoiceFate fate) =>
        fate switch
        {
            EInvoiceFate.OnItsWay => "on its way",
            EInvoiceFate.Stuck => "did not go",
            EInvoiceFate.Arrived => "arrived, no answer yet",
            EInvoiceFate.InWork => "in work there",
            EInvoiceFate.Taken => "taken",
            EInvoiceFate.Refused => "refused",
            EInvoiceFate.Paid => "paid, they say",
            _ => "taken back",
        };
}
