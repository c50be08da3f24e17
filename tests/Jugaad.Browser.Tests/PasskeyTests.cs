namespace Jugaad.Browser.Tests;

/// <summary>A passkey is made, comes in by itself, and opens nothing once it is taken away.</summary>
public sealed class PasskeyTests(Running running) : IClassFixture<Running>
{
    [Fact]
    public void A_device_is_added_signs_in_without_a_password_and_is_taken_away()
    {
        // At a number there is none, and the page says where there is.
        using var browser = new Chromium(running.Address);
        browser.SignIn();
        browser.Go("/me");
        browser.Until(
            () =>
                browser
                    .All("form[action='/me?handler=Passkey'] p.hint a")
                    .Any(a => a.Displayed && a.Text.Contains("localhost", StringComparison.Ordinal)),
            "nothing tells where passkeys work"
        );
        browser.All("#passkeyName").ShouldAllBe(f => !f.Displayed);

        using var named = new Chromium(running.Address.Replace("127.0.0.1", "localhost", StringComparison.Ordinal));
        named.PlugInDevice();
        named.SignIn();
        named.Go("/me");
        named.Type("passkeyName", "office laptop");
        named.Type("passwordForPasskey", "not my password");
        named.Press("Add a passkey");
        named.WaitFor("This is not your password");
        named.EmptyDevice();
        named.Type("passkeyName", "office laptop");
        named.Type("passwordForPasskey", Jugaad.Demo.DemoBooks.Password);
        named.Press("Add a passkey");
        named.WaitFor("The passkey is added");
        named.Find("#passkeys").Text.ShouldContain("office laptop");

        named.SignOut();
        named.Press("Come in with a passkey");
        named.Until(() => named.Path == "/", () => $"the passkey does not open: {named.Text}");
        // Without its holder the device says no.
        named.SignOut();
        named.HolderIsThere(false);
        named.Press("Come in with a passkey");
        named.WaitFor("The device said no");
        named.HolderIsThere(true);
        named.Press("Come in with a passkey");
        named.Until(() => named.Path == "/", "the passkey does not open a second time");

        named.Go("/me");
        named.Press("Remove");
        named.WaitFor("opens nothing any more");
        named.SignOut();
        named.Press("Come in with a passkey");
        named.WaitFor("This passkey opens nothing here");
        named.Path.ShouldStartWith("/sign-in");
    }
}
