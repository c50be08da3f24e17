namespace Jugaad.Desk.Outside;

/// <summary>What is known of a mail or message after it could not be carried as it should.</summary>
public enum CarrierFate
{
    /// <summary>It was not taken over; another try may be.</summary>
    NotTaken,

    /// <summary>It was not taken over, and another try would be of no use.</summary>
    Refused,

    /// <summary>The line broke after it was handed over: it may have gone or not.</summary>
    Unknown,
}

/// <summary>Said by a carrier that could not carry, or does not know whether it did.</summary>
public sealed class CarrierException(string message, CarrierFate fate, Exception? inner = null)
    : Exception(message, inner)
{
    public CarrierFate Fate { get; } = fate;
}
