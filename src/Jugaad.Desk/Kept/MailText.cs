namespace Jugaad.Desk.Kept;

/// <summary>Which text a mail begins with.</summary>
public enum MailText
{
    Quote,
    Order,
    DeliveryNote,
    Invoice,
    CreditNote,

    /// <summary>Says that money came in, and what it was set against.</summary>
    Receipt,

    /// <summary>A short message with a link, for a telephone.</summary>
    Message,
    GentleReminder,
    FirmReminder,
    LastReminder,

    /// <summary>Before anything is late.</summary>
    DueSoon,

    /// <summary>What follows if nothing comes.</summary>
    FinalNotice,

    /// <summary>A reminder as a short message for a telephone.</summary>
    ReminderMessage,

    /// <summary>With a statement of account.</summary>
    Statement,
}
