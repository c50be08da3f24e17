using System.Collections.Concurrent;
using System.Diagnostics;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Support.UI;
using OpenQA.Selenium.VirtualAuth;

namespace Jugaad.Browser.Tests;

/// <summary>
/// Headless Chromium, driven as a person would: by what is seen on the page and by keys. It is started for the first
/// test of a site and then lent to one test after the other, each time in a new window that knows nothing of the one
/// before.
/// </summary>
public sealed class Chromium : IDisposable
{
    private const string Seen =
        "const seen = e => e.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true }) && e.getClientRects().length > 0;";
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(15);
    private static readonly ConcurrentDictionary<int, ConcurrentBag<(ChromeDriver Driver, string Profile)>> Idle = [];

    /// <summary>
    /// Debian's Chromium, without the frame of a window where that is installed and of the driver's own version.
    /// </summary>
    private static readonly Lazy<string> Binary = new(() =>
        VersionOf("chromium-headless-shell") is { } version && version == VersionOf("chromedriver")
            ? System.IO.Path.Combine(SourceTree.Root, "tests", "Jugaad.Browser.Tests", "headless-shell")
            : "/usr/bin/chromium"
    );

    private readonly ChromeDriver _driver;
    private readonly string _address;
    private readonly string _profile;
    private bool _hasDevice;

    /// <summary>Those of one site that nobody uses now, by the site's port.</summary>
    private static ConcurrentBag<(ChromeDriver Driver, string Profile)> IdleOf(string address) =>
        Idle.GetOrAdd(new Uri(address).Port, _ => []);

    /// <summary>Ends all that a site's tests used, when they are done.</summary>
    public static void EndOf(string address)
    {
        while (IdleOf(address).TryTake(out var idle))
            End(idle.Driver, idle.Profile);
    }

    public Chromium(string address, int width = 1280, int height = 800)
    {
        _address = address;
        (_driver, _profile) = IdleOf(address).TryTake(out var idle) ? idle : Start();
        // The window's size counts its frame; what is seen is to be exactly as asked.
        var frame = (Width: width - Inner("innerWidth"), Height: height - Inner("innerHeight"));
        if (frame is not (0, 0))
        {
            var now = _driver.Manage().Window.Size;
            _driver.Manage().Window.Size = new System.Drawing.Size(now.Width + frame.Width, now.Height + frame.Height);
        }
    }

    /// <summary>What a program says its version is, or nothing where it is not installed.</summary>
    private static string? VersionOf(string program)
    {
        try
        {
            using var asked = Process.Start(
                new ProcessStartInfo($"/usr/bin/{program}", "--version")
                {
                    RedirectStandardOutput = true,
                    RedirectStandardError = true,
                }
            )!;
            asked.BeginErrorReadLine();
            return asked.StandardOutput.ReadToEnd().Split([' ', '\n']).FirstOrDefault(word => word.Contains('.'));
        }
        catch (System.ComponentModel.Win32Exception)
        {
            return null;
        }
    }

    private static (ChromeDriver, string) Start()
    {
        var profile = Directory.CreateTempSubdirectory("jugaad-chromium-").FullName;
        var options = new ChromeOptions { BinaryLocation = Binary.Value };
        options.AddArguments(
            "--headless=new",
            "--lang=en-GB",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-dev-shm-usage",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-extensions",
            "--disable-component-extensions-with-background-pages",
            "--disable-default-apps",
            "--mute-audio",
            "--disable-smooth-scrolling",
            "--disable-threaded-scrolling",
            "--disable-breakpad",
            "--disable-features=Translate,OptimizationHints,MediaRouter,DialMediaRouteProvider,CalculateNativeWinOcclusion,InterestFeedContentSuggestions,AutofillServerCommunication,GlobalMediaControls,SpareRendererForSitePerProcess",
            "--disable-quic",
            "--hide-scrollbars",
            "--force-device-scale-factor=1",
            "--window-size=1280,800",
            $"--user-data-dir={profile}"
        );
        options.SetLoggingPreference(LogType.Browser, OpenQA.Selenium.LogLevel.Warning);
        return (
            new ChromeDriver(
                ChromeDriverService.CreateDefaultService("/usr/bin/chromedriver"),
                options,
                TimeSpan.FromSeconds(60)
            ),
            profile
        );
    }

    /// <summary>Shows pages as a screen of that width does, narrower than any window.</summary>
    public void BeWide(int width) =>
        _driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new()
            {
                ["width"] = width,
                ["height"] = 800,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = false,
            }
        );

    private int Inner(string side) => (int)(long)_driver.ExecuteScript($"return window.{side}")!;

    public string Path => new Uri(_driver.Url).PathAndQuery;

    /// <summary>All that is seen on the page.</summary>
    public string Text =>
        (string)_driver.ExecuteScript("return document.body ? document.body.innerText.replaceAll('\u00a0', ' ') : ''")!;

    public IJavaScriptExecutor Script => _driver;

    /// <summary>Gives the machine a device that makes passkeys and knows its holder.</summary>
    public void PlugInDevice()
    {
        _driver.AddVirtualAuthenticator(
            new VirtualAuthenticatorOptions()
                .SetTransport(VirtualAuthenticatorOptions.Transport.INTERNAL)
                .SetHasResidentKey(true)
                .SetHasUserVerification(true)
                .SetIsUserVerified(true)
        );
        _hasDevice = true;
    }

    /// <summary>Whether the device's holder is at it.</summary>
    public void HolderIsThere(bool there) => _driver.SetUserVerified(there);

    public void EmptyDevice() => _driver.RemoveAllCredentials();

    public void SignOut()
    {
        Find("header form[action='/sign-out'] button").Click();
        Until(() => Path.StartsWith("/sign-in", StringComparison.Ordinal));
    }

    public void Go(string path) => _driver.Navigate().GoToUrl(_address + path);

    public void SignIn()
    {
        Go("/sign-in");
        Press("Sign in");
        Until(() => Path == "/");
    }

    public IWebElement Find(string css) =>
        Until(() => First("document.querySelectorAll(arguments[0])", css), $"no {css} is seen on {Path}");

    /// <summary>The first that is seen of what a script finds.</summary>
    private IWebElement? First(string found, string argument) =>
        (IWebElement?)_driver.ExecuteScript($"{Seen} return [...{found}].find(seen) ?? null", argument);

    public IReadOnlyList<IWebElement> All(string css) => _driver.FindElements(By.CssSelector(css));

    public IWebElement ById(string id) =>
        Until(() => First("document.querySelectorAll(`[id='${arguments[0]}']`)", id), $"no {id} is seen on {Path}");

    /// <summary>
    /// Presses the button or link with that text, in the page rather than its head. A page that is just being left or
    /// drawn is waited for.
    /// </summary>
    public void Press(string text) =>
        Until(
            () =>
            {
                var found = First(
                    "[...document.querySelectorAll('main button:enabled, main a')].filter(e => e.textContent.trim().replace(/\\s+/g, ' ') === arguments[0])",
                    text
                );
                if (found is null)
                    return false;
                Click(found);
                return true;
            },
            $"no “{text}” to press on {Path}"
        );

    /// <summary>
    /// Brings something to where a person would press it, clear of the strip at the foot, and presses it.
    /// </summary>
    public void Click(IWebElement element)
    {
        try
        {
            Script.ExecuteScript("arguments[0].scrollIntoView({block: 'center'})", element);
            element.Click();
        }
        catch (UnknownErrorException gone) when (IsOfPageBefore(gone))
        {
            throw new StaleElementReferenceException(gone.Message, gone);
        }
    }

    public void Type(string id, string text)
    {
        var box = ById(id);
        box.Clear();
        box.SendKeys(text);
    }

    /// <summary>Sets a field whose typing depends on the machine's habits, such as a date.</summary>
    public void Set(string id, string value) =>
        Script.ExecuteScript(
            "const e = document.getElementById(arguments[0]); e.value = arguments[1]; e.dispatchEvent(new Event('input', {bubbles: true})); e.dispatchEvent(new Event('change', {bubbles: true}));",
            id,
            value
        );

    public void Keys(string keys) => _driver.SwitchTo().ActiveElement().SendKeys(keys);

    /// <summary>Waits until a field has the focus: the page is alive, and keys are heard.</summary>
    public void UntilFocused(string id)
    {
        var on = "";
        Until(
            () => (on = (string)Script.ExecuteScript("return document.activeElement?.id ?? ''")!) == id,
            () => $"the focus is on “{on}”, not on {id}"
        );
    }

    public void WaitFor(string text) =>
        Until(
            () => Text.Contains(text, StringComparison.Ordinal),
            () => $"“{text}” does not appear on {Path}. The page says:\n{Text}"
        );

    public void Until(Func<bool> condition, string? otherwise = null) =>
        Until<object>(() => condition() ? true : null, otherwise ?? "it does not come about");

    public void Until(Func<bool> condition, Func<string> otherwise) =>
        Until<object>(() => condition() ? true : null, otherwise);

    public T Until<T>(Func<T?> find, string otherwise)
        where T : class => Until(find, () => otherwise);

    private T Until<T>(Func<T?> find, Func<string> otherwise)
        where T : class
    {
        var wait = new WebDriverWait(_driver, Patience) { PollingInterval = TimeSpan.FromMilliseconds(60) };
        wait.IgnoreExceptionTypes(
            typeof(StaleElementReferenceException),
            typeof(NoSuchElementException),
            typeof(ElementNotInteractableException),
            typeof(JavaScriptException)
        );
        try
        {
            return wait.Until(_ =>
            {
                try
                {
                    return find();
                }
                catch (UnknownErrorException gone) when (IsOfPageBefore(gone))
                {
                    return null;
                }
            })!;
        }
        catch (WebDriverTimeoutException)
        {
            throw new Xunit.Sdk.XunitException(otherwise());
        }
    }

    /// <summary>
    /// Whether something was asked of a page that was just left, which the driver does not always say in one way.
    /// </summary>
    private static bool IsOfPageBefore(UnknownErrorException error) =>
        error.Message.Contains("does not belong to the document", StringComparison.Ordinal);

    public void Picture(string file) => ((ITakesScreenshot)_driver).GetScreenshot().SaveAsFile(file);

    /// <summary>
    /// What the browser complained of: script errors, refused loads, broken policies. A form that was refused is none.
    /// </summary>
    public IReadOnlyList<string> Complaints() =>
        _driver
            .Manage()
            .Logs.GetLog(LogType.Browser)
            .Select(l => l.Message)
            .Where(m => !m.Contains("status of 422", StringComparison.Ordinal))
            .ToList();

    /// <summary>
    /// Gives the program back for the next test, in a new window that has nothing of this one; one that cannot be is
    /// ended.
    /// </summary>
    public void Dispose()
    {
        try
        {
            if (_hasDevice)
                _driver.RemoveVirtualAuthenticator(_driver.AuthenticatorId!);
            Forget();
            IdleOf(_address).Add((_driver, _profile));
        }
        catch (WebDriverException)
        {
            End(_driver, _profile);
        }
    }

    private void Forget()
    {
        var old = _driver.WindowHandles;
        _driver.SwitchTo().NewWindow(WindowType.Window);
        var fresh = _driver.CurrentWindowHandle;
        foreach (var window in old)
        {
            _driver.SwitchTo().Window(window);
            // A form that was typed into asks before it is left.
            _driver.ExecuteScript("window.onbeforeunload = null");
            _driver.Close();
        }

        _driver.SwitchTo().Window(fresh);
        _driver.ExecuteCdpCommand("Network.clearBrowserCookies", []);
        _driver.ExecuteCdpCommand(
            "Storage.clearDataForOrigin",
            new() { ["origin"] = _address, ["storageTypes"] = "all" }
        );
        Complaints();
    }

    private static void End(ChromeDriver driver, string profile)
    {
        driver.Quit();
        driver.Dispose();
        try
        {
            Directory.Delete(profile, recursive: true);
        }
        catch (IOException)
        {
            // Chromium may still be writing; the system clears its temporary files.
        }
    }
}
