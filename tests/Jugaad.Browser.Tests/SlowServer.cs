namespace Jugaad.Browser.Tests;

/// <summary>
/// A server whose answers to the page's look-ups come when the test says, in the order that the test says, or not at
/// all. The page's own questions go to the real program; only their answers are held.
/// </summary>
internal sealed class SlowServer(Chromium browser)
{
    private const string Hold = """
        window.heldAnswers = [];
        window.serverIsGone = false;
        const real = window.fetch.bind(window);
        window.fetch = async (address, options) => {
          if (window.serverIsGone) throw new TypeError("no answer");
          const answer = await real(address, options);
          if (!window.heldPart || !String(address).includes(window.heldPart)) return answer;
          await new Promise(resolve => window.heldAnswers.push({ address: decodeURIComponent(String(address)), resolve }));
          return answer;
        };
        window.heldPart = arguments[0];
        """;

    /// <summary>From now on answers to addresses that contain this are held back.</summary>
    public void HoldAnswersTo(string part) => browser.Script.ExecuteScript(Hold, part);

    /// <summary>Waits until the answer to such an address is there, and lets it through.</summary>
    public void Release(string part) =>
        browser.Until(
            () =>
                browser.Script.ExecuteScript(
                    "const i = window.heldAnswers.findIndex(h => h.address.includes(arguments[0])); if (i < 0) return false; window.heldAnswers.splice(i, 1)[0].resolve(); return true;",
                    part
                )
                    is true,
            $"nothing was asked of {part}"
        );

    /// <summary>Lets everything through, now and later.</summary>
    public void ReleaseAll() =>
        browser.Script.ExecuteScript("window.heldPart = ''; window.heldAnswers.splice(0).forEach(h => h.resolve());");

    /// <summary>Whether the server is reached at all.</summary>
    public void IsGone(bool gone) =>
        browser.Script.ExecuteScript(
            "if (!window.heldAnswers) { const real = window.fetch.bind(window); window.heldAnswers = []; window.fetch = async (a, o) => { if (window.serverIsGone) throw new TypeError('no answer'); return real(a, o); }; } window.serverIsGone = arguments[0];",
            gone
        );
}
