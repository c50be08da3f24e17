using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Support.UI;
using OpenQA.Selenium.VirtualAuth;

namespace Jugaad.Browser.Tests;

/// <summary>Headless Chromium, driven as a person would: by what is seen on the page and by keys.</summary>
public sealed class Chromium : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(15);
    private readonly ChromeDriver _driver;
    private readonly string _address;
    private readonly string _profile = Directory.CreateTempSubdirectory("jugaad-chromium-").FullName;

    public Chromium(string address, int width = 1280, int height = 800)
    {
        _address = address;
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new", "--lang=en-GB", "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync",
            "--disable-quic", "--hide-scrollbars", "--force-device-scale-factor=1", $"--window-size={width},{height}", $"--user-data-dir={_profile}");
        options.SetLoggingPreference(LogType.Browser, OpenQA.Selenium.LogLevel.Warning);
        _driver = new ChromeDriver(ChromeDriverService.CreateDefaultService("/usr/bin/chromedriver"), options, TimeSpan.FromSeconds(60));
        // The window's size counts its frame; what is seen is to be exactly as asked.
        var frame = (Width: width - Inner("innerWidth"), Height: height - Inner("innerHeight"));
        _driver.Manage().Window.Size = new System.Drawing.Size(width + frame.Width, height + frame.Height);
    }

    private int Inner(string side) => (int)(long)_driver.ExecuteScript($"return window.{side}")!;

    public string Path => new Uri(_driver.Url).PathAndQuery;

    public string Text => _driver.FindElement(By.TagName("body")).Text;

    public IJavaScriptExecutor Script => _driver;

    /// <summary>Gives the machine a device that makes passkeys and knows its holder.</summary>
    public void PlugInDevice() => _driver.AddVirtualAuthenticator(new VirtualAuthenticatorOptions().SetTransport(VirtualAuthenticatorOptions.Transport.INTERNAL).SetHasResidentKey(true).SetHasUserVerification(true).SetIsUserVerified(true));

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

    public IWebElement Find(string css) => Until(() => _driver.FindElements(By.CssSelector(css)).FirstOrDefault(e => e.Displayed), $"no {css} is seen on {Path}");

    public IReadOnlyList<IWebElement> All(string css) => _driver.FindElements(By.CssSelector(css));

    public IWebElement ById(string id) => Until(() => _driver.FindElements(By.Id(id)).FirstOrDefault(e => e.Displayed), $"no {id} is seen on {Path}");

    /// <summary>Presses the button or link with that text, in the page rather than its head. A page that is just being left or drawn is waited for.</summary>
    public void Press(string text) => Until(() =>
    {
        var found = _driver.FindElements(By.XPath($"//main//button[normalize-space()='{text}'] | //main//a[normalize-space()='{text}']")).FirstOrDefault(e => e.Displayed && e.Enabled);
        if (found is null) return false;
        Click(found);
        return true;
    }, $"no “{text}” to press on {Path}");

    /// <summary>Brings something to where a person would press it, clear of the strip at the foot, and presses it.</summary>
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
        Script.ExecuteScript("const e = document.getElementById(arguments[0]); e.value = arguments[1]; e.dispatchEvent(new Event('input', {bubbles: true})); e.dispatchEvent(new Event('change', {bubbles: true}));", id, value);

    public void Keys(string keys) => _driver.SwitchTo().ActiveElement().SendKeys(keys);

    public void WaitFor(string text) => Until(() => Text.Contains(text, StringComparison.Ordinal), () => $"“{text}” does not appear on {Path}. The page says:\n{Text}");

    public void Until(Func<bool> condition, string? otherwise = null) => Until<object>(() => condition() ? true : null, otherwise ?? "it does not come about");

    public void Until(Func<bool> condition, Func<string> otherwise) => Until<object>(() => condition() ? true : null, otherwise);

    public T Until<T>(Func<T?> find, string otherwise) where T : class => Until(find, () => otherwise);

    private T Until<T>(Func<T?> find, Func<string> otherwise) where T : class
    {
        var wait = new WebDriverWait(_driver, Patience) { PollingInterval = TimeSpan.FromMilliseconds(60) };
        wait.IgnoreExceptionTypes(typeof(StaleElementReferenceException), typeof(NoSuchElementException), typeof(ElementNotInteractableException));
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

    /// <summary>Whether something was asked of a page that was just left, which the driver does not always say in one way.</summary>
    private static bool IsOfPageBefore(UnknownErrorException error) => error.Message.Contains("does not belong to the document", StringComparison.Ordinal);

    public void Picture(string file) => ((ITakesScreenshot)_driver).GetScreenshot().SaveAsFile(file);

    /// <summary>What the browser complained of: script errors, refused loads, broken policies. A form that was refused is none.</summary>
    public IReadOnlyList<string> Complaints() =>
        _driver.Manage().Logs.GetLog(LogType.Browser).Select(l => l.Message).Where(m => !m.Contains("status of 422", StringComparison.Ordinal)).ToList();

    public void Dispose()
    {
        _driver.Quit();
        _driver.Dispose();
        try
        {
            Directory.Delete(_profile, recursive: true);
        }
        catch (IOException)
        {
            // The browser may still be letting go of its last files; the machine clears its temporary folder itself.
        }
    }
}
