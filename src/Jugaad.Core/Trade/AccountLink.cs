namespace Jugaad.Core.Trade;

/// <summary>The address at which a customer sees what is open and what was paid on their account.</summary>
public sealed class AccountLink : CustomerLink
{
    private AccountLink() { }

    public AccountLink(int customerId, string token)
        : base(token) => CustomerId = customerId;

    public int CustomerId { get; private set; }
}
