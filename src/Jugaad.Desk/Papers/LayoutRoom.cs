using System.Text;
using Jugaad.Core;
using Jugaad.Core.Layouts;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Desk.Papers;

/// <summary>A layout of our own as it is listed.</summary>
/// <param name="Changed">Whether it was worked on since it was put to use.</param>
public sealed record ListedLayout(
    int Id,
    string Name,
    string About,
    bool InUse,
    bool Changed,
    DateTime ChangedAt,
    string ChangedBy,
    int States
);

/// <summary>Keeps the layouts of our own: copies, work, states, and ways back.</summary>
public sealed class LayoutRoom(
    BooksContext db,
    BookWriter writer,
    LayoutTrials trials,
    IPictureCleaner pictures,
    IPaperPrinter printer,
    BooksHead head
)
{
    private const int Most = 60;

    public async Task<IReadOnlyList<ListedLayout>> AllAsync(CancellationToken stop = default)
    {
        var layouts = await db.Layouts.AsNoTracking().OrderBy(l => l.Name).ToListAsync(stop);
        var states = await db
            .LayoutStates.Where(s => s.LayoutId != null)
            .Select(s => new
            {
                s.Id,
                s.LayoutId,
                s.Hash,
            })
            .ToListAsync(stop);
        return
        [
            .. layouts.Select(l => new ListedLayout(
                l.Id,
                l.Name,
                LayoutFile.Parse(l.Work).About,
                l.StateId is not null,
                states.FirstOrDefault(s => s.Id == l.StateId)?.Hash != LayoutState.HashOf(l.Work),
                l.ChangedAt,
                l.ChangedBy,
                states.Count(s => s.LayoutId == l.Id)
            )),
        ];
    }

    /// <exception cref="RefusalException">When there is none.</exception>
    public async Task<KeptLayout> FindAsync(int id, CancellationToken stop = default) =>
        await db.Layouts.AsNoTracking().SingleOrDefaultAsync(l => l.Id == id, stop)
        ?? throw new RefusalException("", $"There is no layout {id}.");

    /// <summary>A layout by its name or the key of one that ships, or from a file.</summary>
    /// <exception cref="RefusalException">When there is none, or the file holds none that can be used.</exception>
    public async Task<Layout> FindAsync(string nameOrFile, CancellationToken stop = default)
    {
        if (await db.Layouts.AsNoTracking().FirstOrDefaultAsync(l => l.Name == nameOrFile, stop) is { } kept)
            return LayoutFile.Read(kept.Work);
        var shipped = ShippedLayouts.Keys.FirstOrDefault(k =>
            k == nameOrFile || ShippedLayouts.Of(k).Name.Equals(nameOrFile, StringComparison.OrdinalIgnoreCase)
        );
        if (shipped is not null)
            return ShippedLayouts.Of(shipped);
        if (File.Exists(nameOrFile))
            return Cleaned(LayoutFile.Read(await File.ReadAllTextAsync(nameOrFile, Encoding.UTF8, stop)), null);
        throw new RefusalException(
            "layout",
            $"There is no layout and no file “{nameOrFile}”. The layouts that ship are {string.Join(", ", ShippedLayouts.Keys)}."
        );
    }

    /// <summary>A copy of one that ships, or of one of our own, to be changed.</summary>
    /// <param name="of">The key of one that ships, or the id of one of our own.</param>
    /// <param name="name">Empty for a name that is free.</param>
    /// <exception cref="RefusalException">When there is no such layout, or the name is taken.</exception>
    public Task<int> CopyAsync(string of, string name, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                Layout layout;
                if (int.TryParse(of, out var id))
                    layout = LayoutFile.Parse((await FindAsync(id, stop)).Work);
                else if (ShippedLayouts.Keys.Contains(of))
                    layout = ShippedLayouts.Of(of);
                else
                    throw new RefusalException("", $"There is no layout “{of}” to copy.");
                return await AddAsync(
                    layout,
                    name.Trim().Length > 0 ? name : await FreeNameAsync(layout.Name, stop),
                    stop
                );
            }
        );

    /// <summary>Takes a layout in from its file.</summary>
    /// <exception cref="RefusalException">With what is wrong in it, each by its place.</exception>
    public Task<int> TakeInAsync(string json, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var layout = Cleaned(LayoutFile.Read(json), null);
                return await AddAsync(layout, await FreeNameAsync(layout.Name, stop), stop);
            }
        );

    /// <summary>Keeps what is worked on, whether or not it can be used yet.</summary>
    /// <param name="version">That whoever works on it saw.</param>
    /// <returns>The new version.</returns>
    /// <exception cref="RefusalException">When it is no layout, or somebody else worked on it.</exception>
    public Task<int> KeepAsync(int id, int version, string json, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var layout = LayoutFile.Parse(json);
                var kept = await TrackedAsync(id, stop);
                if (kept.Version != version)
                    throw new RefusalException(
                        "",
                        $"{kept.ChangedBy} worked on this layout while you had it open. Load the page again; what you see here you can take out as a file first."
                    );
                kept.Keep(
                    LayoutFile.Write(Cleaned(layout, LayoutFile.Parse(kept.Work)) with { Name = kept.Name }),
                    (await head.NowAsync(stop)).DateTime,
                    writer.Who
                );
                return kept.Version;
            }
        );

    /// <exception cref="RefusalException">When the name is taken.</exception>
    public Task<int> RenameAsync(int id, string name, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var kept = await TrackedAsync(id, stop);
                var before = kept.Name;
                kept.Rename(name);
                await MustBeFreeAsync(kept.Name, id, stop);
                kept.Keep(
                    LayoutFile.Write(LayoutFile.Parse(kept.Work) with { Name = kept.Name }),
                    (await head.NowAsync(stop)).DateTime,
                    writer.Who
                );
                await writer.TrailAsync($"Layout {before} is called {kept.Name}");
                return id;
            }
        );

    /// <summary>Puts what was drawn to use from now on, after it was tried on the books' own papers.</summary>
    /// <returns>The number of the state.</returns>
    /// <exception cref="RefusalException">With what the trial found that cannot stand.</exception>
    public async Task<int> UseAsync(int id, int version, Once once = default)
    {
        writer.Must(Right.Setup);
        // The trial takes its time, so that it is made before anybody is kept from writing; the version says that what
        // was tried is what is used.
        var layout = LayoutFile.Read((await FindAsync(id, once.Stop)).Work);
        await trials.MustStandAsync(layout, await trials.KindsAsync(id, once.Stop), once.Stop);
        return await writer.WriteAsync(Right.Setup, once, stop => UsedAsync(id, version, stop));
    }

    private async Task<int> UsedAsync(int id, int version, CancellationToken stop)
    {
        var kept = await TrackedAsync(id, stop);
        if (kept.Version != version)
            throw new RefusalException(
                "",
                "Somebody else worked on this layout a moment ago. Load the page again and look it over first."
            );
        var states = await db
            .LayoutStates.Where(s => s.LayoutId == id)
            .Select(s => new
            {
                s.Id,
                s.No,
                s.Hash,
            })
            .ToListAsync(stop);
        var hash = LayoutState.HashOf(kept.Work);
        if (states.FirstOrDefault(s => s.Id == kept.StateId) is { } now && now.Hash == hash)
            return now.No;
        var state = new LayoutState(
            id,
            "",
            states.Count == 0 ? 1 : states.Max(s => s.No) + 1,
            kept.Work,
            (await head.NowAsync(stop)).DateTime,
            writer.Who
        );
        db.LayoutStates.Add(state);
        await writer.SaveAsync(stop);
        kept.Use(state.Id);
        await writer.TrailAsync($"Layout {kept.Name} used from now on, in its state {state.No}");
        return state.No;
    }

    /// <summary>The states of a layout, the newest first.</summary>
    public async Task<IReadOnlyList<LayoutState>> StatesAsync(int id, CancellationToken stop = default) =>
        await db
            .LayoutStates.AsNoTracking()
            .Where(s => s.LayoutId == id)
            .OrderByDescending(s => s.No)
            .ToListAsync(stop);

    /// <summary>Goes on working from an earlier state; what is in use stays in use until that is said.</summary>
    /// <exception cref="RefusalException">When it has no such state.</exception>
    public Task<int> BackAsync(int id, int no, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var kept = await TrackedAsync(id, stop);
                var state =
                    await db.LayoutStates.SingleOrDefaultAsync(s => s.LayoutId == id && s.No == no, stop)
                    ?? throw new RefusalException("", $"{kept.Name} has no state {no}.");
                kept.Keep(
                    LayoutFile.Write(LayoutFile.Parse(state.Json) with { Name = kept.Name }),
                    (await head.NowAsync(stop)).DateTime,
                    writer.Who
                );
                await writer.TrailAsync($"Layout {kept.Name} taken back to its state {no}");
                return id;
            }
        );

    /// <summary>Takes a layout away. What was issued with it keeps its look.</summary>
    /// <exception cref="RefusalException">While a rule chooses it.</exception>
    public Task<int> RemoveAsync(int id, Once once = default) =>
        writer.WriteAsync(
            Right.Setup,
            once,
            async stop =>
            {
                var kept = await TrackedAsync(id, stop);
                if (await db.LayoutRules.AnyAsync(r => r.LayoutId == id, stop))
                    throw new RefusalException(
                        "",
                        $"A rule gives papers the layout {kept.Name}. Take the rule away first."
                    );
                db.Layouts.Remove(kept);
                await writer.TrailAsync($"Layout {kept.Name} taken away");
                return id;
            }
        );

    /// <summary>
    /// With its pictures read and written anew, so that nothing is kept that is no picture, or came along with one, and
    /// its typefaces read.
    /// </summary>
    /// <param name="before">Whose pictures and typefaces were looked at already.</param>
    /// <exception cref="RefusalException">With the place of what is no picture that we read.</exception>
    private Layout Cleaned(Layout layout, Layout? before)
    {
        LayoutPicture Clean(string key, LayoutPicture picture) =>
            before?.Pictures.GetValueOrDefault(key) is { } known && known.Data.AsSpan().SequenceEqual(picture.Data)
                ? known
                : LayoutPicture.Kept(pictures.Clean(picture.Data, $"pictures.{key}.data"));
        foreach (var (key, typeface) in layout.Typefaces)
        {
            var known = before?.Typefaces.GetValueOrDefault(key)?.Files().Select(f => f.File).ToList() ?? [];
            foreach (var (entry, file) in typeface.Files())
                if (!known.Any(k => k.AsSpan().SequenceEqual(file)))
                    printer.CheckTypeface(file, $"typefaces.{key}.{entry}");
        }

        return layout.Pictures.Count == 0
            ? layout
            : layout with
            {
                Pictures = layout.Pictures.ToDictionary(p => p.Key, p => Clean(p.Key, p.Value)),
            };
    }

    private async Task<int> AddAsync(Layout layout, string name, CancellationToken stop)
    {
        if (await db.Layouts.CountAsync(stop) >= Most)
            throw new RefusalException("", $"There are {Most} layouts of our own. Take one away first.");
        var kept = new KeptLayout(
            name,
            LayoutFile.Write(layout with { Name = name.Trim() }),
            (await head.NowAsync(stop)).DateTime,
            writer.Who
        );
        await MustBeFreeAsync(kept.Name, 0, stop);
        db.Layouts.Add(kept);
        await writer.TrailAsync($"Layout {kept.Name} made from {layout.Name}");
        await writer.SaveAsync(stop);
        return kept.Id;
    }

    private async Task MustBeFreeAsync(string name, int id, CancellationToken stop)
    {
        if (
            ShippedLayouts.Keys.Any(k => ShippedLayouts.Of(k).Name.Equals(name, StringComparison.OrdinalIgnoreCase))
            || await db.Layouts.AnyAsync(l => l.Name == name && l.Id != id, stop)
        )
            throw new RefusalException("layoutName", $"There is a layout {name} already. Choose another name.");
    }

    private async Task<string> FreeNameAsync(string name, CancellationToken stop)
    {
        var taken = (await db.Layouts.Select(l => l.Name).ToListAsync(stop))
            .Concat(ShippedLayouts.Keys.Select(k => ShippedLayouts.Of(k).Name))
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        var stem = name.Length > 50 ? name[..50] : name;
        if (!taken.Contains(stem))
            return stem;
        return Enumerable.Range(1, Most + 1).Select(i => $"{stem}, ours {i}").First(n => !taken.Contains(n));
    }

    private async Task<KeptLayout> TrackedAsync(int id, CancellationToken stop) =>
        await db.Layouts.SingleOrDefaultAsync(l => l.Id == id, stop)
        ?? throw new RefusalException("", $"There is no layout {id}.");
}
