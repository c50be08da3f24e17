namespace Jugaad.Core.Documents;

/// <summary>Why a quote was declined, so that it can be counted.</summary>
public enum LossReason
{
    TooDear,
    TooLate,
    WentElsewhere,
    NotNeeded,
    Other,
}

/// <summary>The reasons in words.</summary>
public static class LossReasons
{
    public static string Word(this LossReason reason) =>
        reason switch
        {
            LossReason.TooDear => "too dear",
            LossReason.TooLate => "it would take too long",
            LossReason.WentElsewhere => "somebody else does it",
            LossReason.NotNeeded => "not needed any more",
            _ => "another reason",
        };
}
