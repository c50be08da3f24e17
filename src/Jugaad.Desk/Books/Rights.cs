using Jugaad.Core;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Books;

/// <summary>A kind of work, each of which a role has or has not.</summary>
public enum Right
{
    /// <summary>Begins empty books, or takes up an invitation: nobody is signed in yet.</summary>
    Begin,

    /// <summary>Comes to the door: signs in, is refused, or forgot the password. Anybody does.</summary>
    Door,

    /// <summary>Sees and answers one paper through its link: a customer, who is not signed in.</summary>
    Customer,

    /// <summary>Looks after one's own password and sign-in.</summary>
    Self,

    /// <summary>Quotes, drafts, and new customers for them.</summary>
    Draft,

    /// <summary>Issues what counts: invoices and credit notes.</summary>
    Issue,

    /// <summary>Records money and what it is set against.</summary>
    Money,

    /// <summary>Sends mail, reminders, and looks after the post tray.</summary>
    Mail,

    /// <summary>Notes what customers said about what they owe, and agrees with them how it is paid.</summary>
    Collect,

    /// <summary>Files tax returns.</summary>
    File,

    /// <summary>Changes customers, items and price lists, and moves them in.</summary>
    Masters,

    /// <summary>Changes the business, taxes, accounts, terms and number series.</summary>
    Setup,

    /// <summary>Sees money, reports, settings and the trail.</summary>
    See,

    /// <summary>Invites people and says what they may do.</summary>
    People,

    /// <summary>
    /// Backs the books up, brings them back, and says which are the books: whoever has a backup has everything.
    /// </summary>
    Keep,

    /// <summary>Letting a document pass a customer's credit limit.</summary>
    Pass,
}

/// <summary>Which role has which rights, as one table.</summary>
public static class Rights
{
    private static readonly Dictionary<PersonRole, Right[]> Table = new()
    {
        [PersonRole.Owner] =
        [
            Right.Self,
            Right.Draft,
            Right.Issue,
            Right.Money,
            Right.Mail,
            Right.Collect,
            Right.File,
            Right.Masters,
            Right.Setup,
            Right.See,
            Right.People,
            Right.Keep,
            Right.Pass,
        ],
        [PersonRole.Bookkeeper] =
        [
            Right.Self,
            Right.Draft,
            Right.Issue,
            Right.Money,
            Right.Mail,
            Right.Collect,
            Right.File,
            Right.Masters,
            Right.Setup,
            Right.See,
        ],
        [PersonRole.Seller] = [Right.Self, Right.Draft],
        [PersonRole.Reader] = [Right.Self, Right.See],
    };

    public static bool Has(this PersonRole role, Right right) => Table[role].Contains(right);

    /// <summary>What the role may do, in one line.</summary>
    public static string Words(this PersonRole role) =>
        role switch
        {
            PersonRole.Owner => "does everything, and decides who else may",
            PersonRole.Bookkeeper => "does everything but people",
            PersonRole.Seller => "writes quotes and drafts; issues nothing, touches no money",
            _ => "sees and exports everything, changes nothing",
        };

    /// <summary>The right as the end of a sentence that begins “Your role does not include …”.</summary>
    public static string Words(this Right right) =>
        right switch
        {
            Right.Draft => "writing quotes and drafts",
            Right.Issue => "issuing invoices",
            Right.Money => "recording money",
            Right.Mail => "sending mail",
            Right.Collect => "noting what customers say about what they owe",
            Right.File => "filing tax returns",
            Right.Masters => "changing customers, items and prices",
            Right.Setup => "changing how the business is set up",
            Right.People => "deciding about people",
            Right.Keep => "backing the books up",
            Right.Pass => "letting documents pass a credit limit",
            _ => "this",
        };
}

/// <summary>Thrown when whoever acts has not the right to. Nothing has been changed when it is thrown.</summary>
public sealed class NotAllowedException(Right right)
    : RefusalException(
        "",
        $"Your role does not include {right.Words()}. Ask the owner, who can change your role under Setup, people."
    );
