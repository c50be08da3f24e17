namespace Jugaad.Desk.Kept;

/// <summary>What somebody is in the business, as far as the books go.</summary>
public enum PersonRole
{
    /// <summary>May do everything, and decides who else may do what.</summary>
    Owner,

    /// <summary>Keeps the books: everything but people.</summary>
    Bookkeeper,

    /// <summary>Quotes and drafts; issues nothing and touches no money.</summary>
    Seller,

    /// <summary>Sees and exports everything, changes nothing.</summary>
    Reader,
}
