namespace Jugaad.Core.EInvoicing;

/// <summary>What a receiver can say of an e-invoice.</summary>
public enum AnswerKind
{
    InWork,
    Taken,
    Refused,
    Paid,
}

/// <summary>Which answer can follow which.</summary>
public static class Answers
{
    /// <summary>
    /// Work comes first and once; what is taken can still be paid; what was refused or paid stays so.
    /// </summary>
    /// <param name="before">The last answer that counts; null where there is none.</param>
    public static bool CanFollow(AnswerKind? before, AnswerKind next) =>
        before switch
        {
            null => true,
            AnswerKind.InWork => next != AnswerKind.InWork,
            AnswerKind.Taken => next == AnswerKind.Paid,
            _ => false,
        };

    public static string Word(this AnswerKind kind) =>
        kind switch
        {
            AnswerKind.InWork => "in work",
            AnswerKind.Taken => "taken",
            AnswerKind.Refused => "refused",
            _ => "paid, they say",
        };
}
