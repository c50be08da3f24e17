using System.Text;
using Jugaad.Core;
using Jugaad.Formats.Archives;

namespace Jugaad.Formats.Tests;

/// <summary>What is sealed opens with its key, and with no other; nothing of it can be changed unseen.</summary>
public sealed class SealTests
{
    private static readonly OpenPgpSeal Seal = new();
    private static readonly Desk.Outside.SealKey One = Seal.NewKey("One");
    private static readonly Desk.Outside.SealKey Two = Seal.NewKey("Two");
    private static readonly byte[] Content = Encoding.UTF8.GetBytes(
        string.Concat(Enumerable.Range(0, 40_000).Select(i => $"line {i * 7919 % 65_537}\n"))
    );

    private static byte[] Sealed(params string[] keys)
    {
        using var to = new MemoryStream();
        using (var into = Seal.Seal(to, keys))
            into.Write(Content);
        return to.ToArray();
    }

    private static byte[] Opened(byte[] bytes, params string[] keys)
    {
        using var content = new MemoryStream();
        using var opened = Seal.Open(new MemoryStream(bytes), keys);
        opened.CopyTo(content);
        return content.ToArray();
    }

    [Fact]
    public void Any_of_its_keys_opens_it_and_nothing_of_it_can_be_read_without()
    {
        var bytes = Sealed(One.Public, Two.Public);
        Seal.IsSealed(bytes).ShouldBeTrue();
        Seal.IsSealed([0x1F, 0x8B]).ShouldBeFalse();
        Opened(bytes, One.Private).ShouldBe(Content);
        Opened(bytes, Two.Private).ShouldBe(Content);
        Encoding.Latin1.GetString(bytes).ShouldNotContain("line 7919");
    }

    [Fact]
    public void Another_key_or_none_is_told_so()
    {
        Should
            .Throw<RefusalException>(() => Opened(Sealed(One.Public), Two.Private))
            .Message.ShouldContain("sealed for another key");
        Should
            .Throw<RefusalException>(() => Opened(Sealed(One.Public), "a shopping list"))
            .Message.ShouldContain("not a private key");
        Should
            .Throw<RefusalException>(() => Seal.Fingerprint("a shopping list"))
            .Message.ShouldContain("not a public key");
        Should.Throw<RefusalException>(() => Seal.Fingerprint("")).Message.ShouldContain("not a public key");
        Seal.Fingerprint(One.Public).ShouldNotBe(Seal.Fingerprint(Two.Public));
    }

    [Theory]
    [InlineData(0.3)]
    [InlineData(0.5)]
    [InlineData(0.9)]
    [InlineData(0.9999)]
    public void A_byte_that_was_changed_or_an_end_that_is_missing_is_found(double where)
    {
        var bytes = Sealed(One.Public);
        var changed = bytes.ToArray();
        changed[(int)(bytes.Length * where)] ^= 1;
        Should.Throw<Exception>(() => Opened(changed, One.Private)).ShouldBeAssignableTo<InvalidDataException>();
        Should
            .Throw<Exception>(() => Opened(bytes[..(int)(bytes.Length * where)], One.Private))
            .ShouldBeOfType<InvalidDataException>();
    }
}
