using System.Globalization;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Papers;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using UglyToad.PdfPig;

namespace Jugaad.Browser.Tests;

/// <summary>A layout is drawn with the mouse, and again with keys alone, and the next invoice has it.</summary>
public sealed class StudioTests(Running running) : IClassFixture<Running>
{
    private static object? Ask(Chromium browser, string script, params object[] with) =>
        browser.Script.ExecuteScript($"return {script}", with);

    private static double Number(Chromium browser, string script, params object[] with) =>
        Convert.ToDouble(Ask(browser, script, with), CultureInfo.InvariantCulture);

    /// <summary>A value of a piece as it is worked on.</summary>
    private static double Of(Chromium browser, string piece, string name) =>
        Number(browser, "studio.work.find(arguments[0]).piece[arguments[1]]", piece, name);

    private static string Picked(Chromium browser) => (string)Ask(browser, "studio.work.picked.join(' ')")!;

    /// <summary>Waits until the page shows what was done last.</summary>
    private static void Drawn(Chromium browser) =>
        browser.Until(
            () =>
                (bool)
                    Ask(
                        browser,
                        "!!studio.page.drawn && studio.page.shownOf === studio.work.layout && studio.page.desk.dataset.drawn > 0"
                    )!,
            "the page is not drawn"
        );

    private static void Kept(Chromium browser) =>
        browser.Until(
            () => browser.ById("studio-said").Text is "kept" or "kept as you go",
            () => $"it is not kept: {browser.ById("studio-said").Text}"
        );

    private static void Begin(Chromium browser, string layout = "Plain")
    {
        browser.SignIn();
        browser.Go("/setup/layouts");
        browser.Click(browser.Find($"button[aria-label='copy and draw the layout {layout}']"));
        browser.Until(() => (bool)Ask(browser, "!!window.studio")!, "the studio does not begin");
        Drawn(browser);
    }

    private static (int X, int Y) Middle(Chromium browser, string css)
    {
        browser.Script.ExecuteScript(
            "document.querySelector(arguments[0]).scrollIntoView({block: 'center', inline: 'center'})",
            css
        );
        var box =
            (Dictionary<string, object>)
                Ask(
                    browser,
                    "(b => ({x: b.x + b.width / 2, y: b.y + b.height / 2}))(document.querySelector(arguments[0]).getBoundingClientRect())",
                    css
                )!;
        return (
            (int)Convert.ToDouble(box["x"], CultureInfo.InvariantCulture),
            (int)Convert.ToDouble(box["y"], CultureInfo.InvariantCulture)
        );
    }

    private static double PerMillimetre(Chromium browser) =>
        Number(
            browser,
            "document.querySelector('.studio-over').getBoundingClientRect().width / studio.page.drawn.width"
        );

    /// <summary>Drags something by millimetres, slowly enough to be followed.</summary>
    private static void Drag(Chromium browser, string css, double dx, double dy)
    {
        var (x, y) = Middle(browser, css);
        var scale = PerMillimetre(browser);
        var mouse = new PointerInputDevice(PointerKind.Mouse, "mouse");
        var sequence = new ActionSequence(mouse);
        sequence.AddAction(mouse.CreatePointerMove(CoordinateOrigin.Viewport, x, y, TimeSpan.Zero));
        sequence.AddAction(mouse.CreatePointerDown(MouseButton.Left));
        for (var step = 1; step <= 4; step++)
            sequence.AddAction(
                mouse.CreatePointerMove(
                    CoordinateOrigin.Viewport,
                    x + (int)Math.Round(dx * scale * step / 4),
                    y + (int)Math.Round(dy * scale * step / 4),
                    TimeSpan.Zero
                )
            );
        sequence.AddAction(mouse.CreatePointerUp(MouseButton.Left));
        ((IActionExecutor)browser.Script).PerformActions([sequence]);
        Drawn(browser);
    }

    private static void Hit(Chromium browser, string css, bool shift = false)
    {
        var (x, y) = Middle(browser, css);
        var actions = new Actions((IWebDriver)browser.Script);
        if (shift)
            actions.KeyDown(Keys.Shift);
        var mouse = new PointerInputDevice(PointerKind.Mouse, "mouse");
        var sequence = new ActionSequence(mouse);
        sequence.AddAction(mouse.CreatePointerMove(CoordinateOrigin.Viewport, x, y, TimeSpan.Zero));
        sequence.AddAction(mouse.CreatePointerDown(MouseButton.Left));
        sequence.AddAction(mouse.CreatePointerUp(MouseButton.Left));
        if (shift)
            actions.Perform();
        ((IActionExecutor)browser.Script).PerformActions([sequence]);
        if (shift)
            new Actions((IWebDriver)browser.Script).KeyUp(Keys.Shift).Perform();
    }

    private static string Spot(string piece) => $".studio-spot[data-piece='{piece}']";

    /// <summary>The property with that label.</summary>
    private static IWebElement Property(Chromium browser, string label) =>
        browser.Find($"#props [data-prop='{label}']");

    private static void Fill(Chromium browser, string label, string value)
    {
        var box = Property(browser, label);
        box.SendKeys(Keys.Control + "a");
        box.SendKeys(value);
    }

    private static void Choose(Chromium browser, string label, string value)
    {
        browser.Script.ExecuteScript(
            "const s = arguments[0]; s.value = arguments[1]; s.dispatchEvent(new Event('change', {bubbles: true}))",
            Property(browser, label),
            value
        );
    }

    /// <summary>Issues an invoice in the program, and reads the PDF that is sent of it.</summary>
    private async Task<(string Text, double LogoLeft, List<UglyToad.PdfPig.Content.Letter> Letters)> NextInvoiceAsync(
        Chromium browser
    )
    {
        browser.Go("/sell/edit?kind=invoice&customer=1");
        browser.ById("lines[0].text").SendKeys("Mending");
        browser.ById("lines[0].unitPrice").SendKeys("100");
        browser.ById("lines[0].discount").SendKeys("10 %");
        browser.ById("issue").Click();
        browser.Until(() => browser.Path.EndsWith("/send", StringComparison.Ordinal), "it does not go on to sending");
        var id = int.Parse(browser.Path.Split('/')[2], CultureInfo.InvariantCulture);
        browser.Press("Issue and send");
        browser.Until(() => browser.Path == $"/papers/{id}", "it is not issued");
        var pdf = await running.WithAsync<PaperRoom, byte[]>(async p => (await p.PdfAsync(id)).Content);
        using var read = PdfDocument.Open(pdf);
        var page = read.GetPage(1);
        var logo = page.GetImages().Select(i => i.BoundingBox.Left * 25.4 / 72).DefaultIfEmpty(-1).Min();
        return (page.Text, logo, [.. page.Letters]);
    }

    private async Task IsAsAskedAsync(Chromium browser)
    {
        var (text, logo, letters) = await NextInvoiceAsync(browser);
        text.ShouldContain("Fax +372 555 0199");
        logo.ShouldBe(144, 0.3, "the logo stands at the right margin");
        text.ShouldNotContain("InvoiceINV");
        text.ShouldContain("90.00");
        text.ShouldNotContain("Discount");
        text.ShouldNotContain("10 %");
        var at = text.LastIndexOf("To pay", StringComparison.Ordinal);
        at.ShouldBeGreaterThan(0);
        var red = letters.Where(l => l.Color.ToRGBValues() is var (r, g, b) && r > 0.7 && g < 0.2 && b < 0.3).ToList();
        string.Concat(red.Select(l => l.Value)).ShouldContain("To pay");
        red.ShouldAllBe(l => l.FontName!.Contains("Bold", StringComparison.Ordinal));
    }

    private static void Rule(Chromium browser, string name)
    {
        browser.Go("/setup/layouts");
        foreach (var (field, words) in new[] { ("layout", name), ("kind", "invoices") })
            browser.Script.ExecuteScript(
                "const s = document.getElementById(arguments[0]); s.value = [...s.options].find(o => o.text === arguments[1]).value",
                field,
                words
            );
        browser.Press("Set the rule");
        browser.WaitFor("The rule is set.");
    }

    [Fact]
    public async Task The_plain_layout_is_made_ones_own_with_the_mouse()
    {
        using var browser = new Chromium(running.Address);
        Begin(browser);

        // The logo goes to the right; near the margin it snaps to it.
        Drag(browser, Spot("logo"), 123.6, 0);
        Of(browser, "logo", "x").ShouldBe(144, 0.02);
        Of(browser, "logo", "y").ShouldBe(16, 0.02);

        // The fax number with its label, below the address.
        browser.Find("#put-in > summary").Click();
        browser.Press("words");
        Drawn(browser);
        Fill(browser, "Words", "Fax +372 555 0199");
        Drawn(browser);
        Drag(browser, Spot("words"), 130 - Of(browser, "words", "x"), 60 - Of(browser, "words", "y"));
        Of(browser, "words", "y").ShouldBe(60, 1.5);

        // The word for the heading is hidden.
        Hit(browser, Spot("heading"));
        Picked(browser).ShouldBe("heading");
        Property(browser, "hidden, keeps its place").Click();

        // The total in red.
        Hit(browser, Spot("totals"));
        Fill(browser, "Colour of the sum", "#C8102E");
        Property(browser, "the sum bold").Selected.ShouldBeTrue();

        // The discount column goes.
        Hit(browser, Spot("lines"));
        browser.Click(browser.Find("#props button[aria-label='× take Discount away']"));
        Drawn(browser);

        // A name, and into use.
        browser.Script.ExecuteScript("studio.work.pick([])");
        Fill(browser, "Name", "By the mouse");
        Property(browser, "Name").SendKeys(Keys.Tab);
        browser.WaitFor("it is called By the mouse");
        // The keeping that was put off meanwhile finds nothing to keep, and leaves what was said to be read.
        browser.Script.ExecuteAsyncScript("const done = arguments[0]; studio.talk.keepNow().then(() => done())");
        browser.ById("studio-said").Text.ShouldBe("it is called By the mouse");
        browser.ById("use").Click();
        browser.WaitFor("used from now on, in its state 1");
        Rule(browser, "By the mouse");
        await IsAsAskedAsync(browser);
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task The_same_without_the_mouse()
    {
        using var browser = new Chromium(running.Address);
        Begin(browser);
        var desk = browser.ById("desk");
        void Pick(string piece)
        {
            desk.SendKeys(Keys.Escape);
            for (var i = 0; i < 40 && Picked(browser) != piece; i++)
                desk.SendKeys("n");
            Picked(browser).ShouldBe(piece);
        }

        Pick("logo");
        // To the right by properties, as an exact figure.
        desk.SendKeys(Keys.Enter);
        browser.Until(
            () => (bool)Ask(browser, "document.getElementById('props').contains(document.activeElement)")!,
            "Enter does not lead to the properties"
        );
        Property(browser, "Left").SendKeys(Keys.Control + "a");
        Property(browser, "Left").SendKeys("134");
        Property(browser, "Left").SendKeys(Keys.Escape);
        for (var i = 0; i < 11; i++)
            desk.SendKeys(Keys.ArrowRight);
        for (var i = 0; i < 10; i++)
            desk.SendKeys(Keys.Control + Keys.ArrowLeft);
        Of(browser, "logo", "x").ShouldBe(144, 0.001);

        browser.Find("#put-in > summary").SendKeys(Keys.Enter);
        browser.Find("#put-in-list button").SendKeys(Keys.Enter);
        Drawn(browser);
        Picked(browser).ShouldBe("words");
        desk.SendKeys(Keys.Enter);
        browser.Keys(Keys.Control + "a");
        browser.Keys("Fax +372 555 0199");
        browser.Keys(Keys.Escape);
        for (var i = 0; i < 12; i++)
            desk.SendKeys(Keys.ArrowDown);
        desk.SendKeys(Keys.Shift + Keys.ArrowRight);
        Of(browser, "words", "width").ShouldBe(61, 0.001);

        Pick("heading");
        desk.SendKeys("h");
        Pick("totals");
        Property(browser, "Colour of the sum").SendKeys(Keys.Control + "a");
        Property(browser, "Colour of the sum").SendKeys("#C8102E");
        Property(browser, "Colour of the sum").SendKeys(Keys.Escape);
        Pick("lines");
        browser.Find("#props button[aria-label='× take Discount away']").SendKeys(Keys.Enter);
        Drawn(browser);
        desk.SendKeys(Keys.Escape);
        Property(browser, "Name").SendKeys(Keys.Control + "a");
        Property(browser, "Name").SendKeys("By keys" + Keys.Tab);
        browser.WaitFor("it is called By keys");
        browser.ById("use").SendKeys(Keys.Enter);
        browser.WaitFor("used from now on, in its state 1");
        Rule(browser, "By keys");
        await IsAsAskedAsync(browser);
        browser.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Several_are_picked_set_straight_grouped_copied_and_all_is_undone_and_done_again()
    {
        using var browser = new Chromium(running.Address);
        Begin(browser);
        var before = (string)Ask(browser, "JSON.stringify(studio.work.layout)")!;
        int Steps() => (int)Number(browser, "studio.work.steps.length");

        // A frame drawn around them picks what is within it; a click with Shift picks one more.
        Ask(browser, "document.getElementById('fit').click()");
        var (x, y) = Middle(browser, Spot("customer"));
        var scale = PerMillimetre(browser);
        var mouse = new PointerInputDevice(PointerKind.Mouse, "mouse");
        var frame = new ActionSequence(mouse);
        var left = Number(browser, "document.querySelector('.studio-over').getBoundingClientRect().x");
        frame.AddAction(
            mouse.CreatePointerMove(
                CoordinateOrigin.Viewport,
                (int)(left + (15 * scale)),
                y - (int)(4 * scale),
                TimeSpan.Zero
            )
        );
        frame.AddAction(mouse.CreatePointerDown(MouseButton.Left));
        frame.AddAction(mouse.CreatePointerMove(CoordinateOrigin.Viewport, x, y, TimeSpan.Zero));
        frame.AddAction(
            mouse.CreatePointerMove(
                CoordinateOrigin.Viewport,
                (int)(left + (110 * scale)),
                y + (int)(31 * scale),
                TimeSpan.Zero
            )
        );
        frame.AddAction(mouse.CreatePointerUp(MouseButton.Left));
        ((IActionExecutor)browser.Script).PerformActions([frame]);
        Picked(browser).Split(' ').ShouldBe(["customer", "customer-lines", "customer-number"], ignoreOrder: true);
        Hit(browser, Spot("logo"), shift: true);
        Picked(browser).Split(' ').ShouldContain("logo");
        Hit(browser, Spot("logo"), shift: true);
        Picked(browser).Split(' ').ShouldNotContain("logo");

        // Twenty steps and more: moved together, set straight, sized, grouped, hidden, doubled …
        var desk = browser.ById("desk");
        for (var i = 0; i < 5; i++)
        {
            browser.Script.ExecuteScript("studio.work.move(1, 0)");
            browser.Script.ExecuteScript("studio.work.size(2, 0)");
        }

        Of(browser, "customer", "x").ShouldBe(25, 0.001);
        Of(browser, "customer-lines", "x").ShouldBe(25, 0.001);
        Hit(browser, Spot("customer"));
        Picked(browser).ShouldBe("customer");
        browser.Script.ExecuteScript("studio.work.move(9, 0)");
        browser.Script.ExecuteScript("studio.work.pick(['customer', 'customer-lines', 'customer-number'])");
        Drawn(browser);
        browser.Find("#arrange > summary").Click();
        browser.Press("Left edges in line");
        Of(browser, "customer", "x").ShouldBe(25, 0.05);
        Drawn(browser);
        desk.SendKeys("g");
        Hit(browser, Spot("customer-number"));
        Picked(browser).Split(' ').Length.ShouldBe(3, "a group is picked together");
        desk.SendKeys("G");
        desk.SendKeys("l");
        desk.SendKeys(Keys.ArrowRight);
        Of(browser, "customer", "x").ShouldBe(25, 0.05, "what is locked stays");
        desk.SendKeys("l");
        desk.SendKeys(Keys.Control + "d");
        Drawn(browser);
        Ask(browser, "!!studio.work.find('customer-2')").ShouldBe(true);
        desk.SendKeys(Keys.Delete);
        Ask(browser, "!!studio.work.find('customer-2')").ShouldBe(false);
        Drawn(browser);

        // By handles, by the edge of a band, and with a guide drawn out of the ruler.
        Hit(browser, Spot("logo"));
        Drag(browser, ".studio-handle.e", 10.3, 0);
        Of(browser, "logo", "width").ShouldBe(56.3, 0.6);
        Drag(browser, ".studio-handle.s", 0, 4);
        Drag(browser, "[data-band='firstHead']", 0, 5);
        Number(browser, "studio.work.band('firstHead').height").ShouldBe(116, 0.6);
        Drag(browser, ".studio-ruler.down", 60, 0);
        Number(browser, "studio.work.layout.guidesAcross.length").ShouldBe(1);
        var guide = Number(browser, "studio.work.layout.guidesAcross[0]");
        Drag(browser, Spot("business"), guide - Of(browser, "business", "x") + 0.6, 0);
        Of(browser, "business", "x").ShouldBe(guide, 0.06, "it snaps to the guide");

        var steps = Steps();
        steps.ShouldBeGreaterThan(20);
        var after = (string)Ask(browser, "JSON.stringify(studio.work.layout)")!;
        for (var i = 1; i < steps; i++)
            desk.SendKeys(Keys.Control + "z");
        ((string)Ask(browser, "JSON.stringify(studio.work.layout)")!).ShouldBe(before, "all is undone");
        browser.ById("undo").Enabled.ShouldBeFalse();
        for (var i = 1; i < steps; i++)
            desk.SendKeys(Keys.Control + "y");
        ((string)Ask(browser, "JSON.stringify(studio.work.layout)")!).ShouldBe(after, "all is done again");
        Kept(browser);

        // What was drawn is there when one comes back, and pieces go from one layout to another.
        Hit(browser, Spot("logo"));
        desk.SendKeys(Keys.Control + "c");
        var path = browser.Path;
        browser.Go(path);
        browser.Until(() => (bool)Ask(browser, "!!window.studio")!);
        Of(browser, "business", "x").ShouldBe(guide, 0.06);
        browser.Go("/setup/layouts");
        browser.Click(browser.Find("button[aria-label='copy and draw the layout Dense']"));
        browser.Until(() => (bool)Ask(browser, "!!window.studio")!);
        Drawn(browser);
        browser.ById("desk").SendKeys(Keys.Control + "v");
        Picked(browser).ShouldBe("logo-2");
        Of(browser, "logo-2", "width").ShouldBe(56.3, 0.6);
        Kept(browser);
    }

    [Fact]
    public async Task A_field_and_a_picture_are_put_in_and_what_is_wrong_is_said_at_once()
    {
        using var browser = new Chromium(running.Address);
        Begin(browser);
        browser.Find("#put-in > summary").Click();
        browser.Press("a field");
        Drawn(browser);
        Choose(browser, "Field", "TotalInWords");
        Drawn(browser);
        browser.Until(
            () =>
                (
                    (string)Ask(browser, "document.querySelector(\"#props option[value='TotalInWords']\").textContent")!
                ).Contains(": ", StringComparison.Ordinal),
            "no field is offered with what it says here"
        );
        var file = Path.Combine(Directory.CreateTempSubdirectory("jugaad-picture-").FullName, "harbour seal.png");
        await File.WriteAllBytesAsync(
            file,
            Convert.FromBase64String(
                "iVBORw0KGgoAAAANSUhEUgAAAAQAAAAECAIAAAAmkwkpAAAAEElEQVR4nGM4IaAHRwzEcQCzoxBhZVk9nQAAAABJRU5ErkJggg=="
            )
        );
        browser.Script.ExecuteScript("document.getElementById('put-picture').hidden = false");
        browser.ById("put-picture").SendKeys(file);
        browser.Until(() => Picked(browser) == "harbour-seal", "the picture is not put in");
        Drawn(browser);
        browser.All(".studio-paper image[href^='data:image/png']").ShouldNotBeEmpty();

        // Hidden, the number is missing: that is said, and the layout is not put to use.
        browser.Script.ExecuteScript("studio.work.pick(['number'])");
        browser.ById("desk").SendKeys("h");
        browser.Until(
            () => browser.ById("found").Text.Contains("The number is missing.", StringComparison.Ordinal),
            "it is not said"
        );
        browser.ById("use").Click();
        browser.WaitFor("not put to use; see beside it why");
        browser.ById("desk").SendKeys("h");
        Drawn(browser);
        browser.ById("use").Click();
        browser.WaitFor("used from now on");

        // Drawn with other papers: of several pages, and an empty one.
        foreach (var (sample, pages) in new[] { ("long", 3), ("empty", 1) })
        {
            browser.Script.ExecuteScript(
                "const s = document.getElementById('sample'); s.value = arguments[0]; s.dispatchEvent(new Event('change'))",
                sample
            );
            browser.Until(
                () =>
                    browser.All(".studio-page").Count >= pages
                    && (sample == "long" || browser.All(".studio-page").Count == 1),
                $"the {sample} one is not drawn"
            );
        }

        browser.Complaints().ShouldBeEmpty();
    }

    private static readonly byte[] RedDot = Convert.FromBase64String(
        "iVBORw0KGgoAAAANSUhEUgAAAAQAAAAECAIAAAAmkwkpAAAAEElEQVR4nGM4IaAHRwzEcQCzoxBhZVk9nQAAAABJRU5ErkJggg=="
    );

    [Fact]
    public async Task A_picture_is_dropped_where_it_is_to_stand_and_a_typeface_of_ones_own_is_taken_in()
    {
        using var browser = new Chromium(running.Address);
        Begin(browser);
        browser.Script.ExecuteScript(
            """
            const [bytes, x, y] = arguments, sheet = document.querySelector(".studio-over"), box = sheet.getBoundingClientRect();
            const scale = box.width / studio.work.layout.width, data = new DataTransfer();
            data.items.add(new File([Uint8Array.from(atob(bytes), c => c.charCodeAt(0))], "Our seal.png", { type: "image/png" }));
            sheet.dispatchEvent(new DragEvent("drop", { bubbles: true, cancelable: true, dataTransfer: data, clientX: box.x + x * scale, clientY: box.y + y * scale }));
            """,
            Convert.ToBase64String(RedDot),
            120,
            40
        );
        browser.Until(() => Picked(browser) == "Our-seal", "the picture is not put in");
        Of(browser, "Our-seal", "x").ShouldBe(120, 0.6);
        Of(browser, "Our-seal", "y").ShouldBe(40, 0.6);
        Drawn(browser);
        Ask(
                browser,
                "document.querySelector('[data-piece=\"Our-seal\"] image').getAttribute('href').startsWith('data:image/png')"
            )
            .ShouldBe(true);

        browser.Script.ExecuteScript("studio.work.pick([])");
        var folder = Directory.CreateTempSubdirectory("jugaad-face-").FullName;
        try
        {
            var (good, bad) = (Path.Combine(folder, "Old Press.ttf"), Path.Combine(folder, "Torn.ttf"));
            await File.WriteAllBytesAsync(good, Formats.Papers.PaperFonts.File("typewriter", "regular")!);
            await File.WriteAllBytesAsync(bad, [0, 1, 0, 0, 1, 2, 3]);
            browser.Script.ExecuteScript(
                "document.querySelectorAll('#props details').forEach(d => { d.open = true; })"
            );
            browser.ById("face-new").SendKeys(bad);
            browser.Until(
                () => browser.ById("studio-said").Text.Contains("no typeface", StringComparison.Ordinal),
                () => $"a torn typeface is taken: {browser.ById("studio-said").Text}"
            );
            browser.ById("face-new").SendKeys(good);
            browser.Until(
                () => (bool)Ask(browser, "!!studio.work.layout.typefaces['Old-Press']")!,
                "it is not taken in"
            );
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }

        Choose(browser, "Typeface", "Old-Press");
        Drawn(browser);
        browser.Until(
            () =>
                (bool)
                    Ask(
                        browser,
                        "document.fonts.ready && [...document.fonts].some(f => f.family.includes('own-') && f.status === 'loaded')"
                    )!,
            "the page does not load the typeface"
        );
        Kept(browser);
        var id = int.Parse(browser.Path.Split('/')[3], CultureInfo.InvariantCulture);
        var pdf = await running.WithAsync<LayoutStudio, byte[]>(async s =>
            await s.PdfAsync(
                (await running.WithAsync<LayoutRoom, Desk.Kept.KeptLayout>(r => r.FindAsync(id))).Work,
                "long"
            )
        );
        using var read = PdfDocument.Open(pdf);
        read.GetPage(1).Letters.ShouldContain(l => l.FontName!.Contains("Courier", StringComparison.Ordinal));
        read.GetPage(1).GetImages().ShouldNotBeEmpty();
    }
}
