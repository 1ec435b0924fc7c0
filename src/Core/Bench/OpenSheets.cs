namespace Osierwand.Core.Bench;

/// <summary>
/// The sheets one host holds open at the same time, each under a handle that its page made up: an answer is computed from the sheet of
/// its handle and from no other. Of a page that went without a word the sheet stays until newer ones need its room; who asks for it after
/// that is told that it is gone, and opens it again from what was kept.
/// </summary>
/// <param name="most">How many are held; the one asked for least recently goes first.</param>
public sealed class OpenSheets(int most)
{
    private readonly Dictionary<string, (BenchSession Session, long UsedAt)> held = [];
    private long uses;

    public int Count => held.Count;

    /// <summary>Holds a sheet from now on; one that was held under this handle is replaced.</summary>
    public void Open(string handle, BenchSession session)
    {
        held[handle] = (session, ++uses);
        if (held.Count > most)
            held.Remove(held.MinBy(sheet => sheet.Value.UsedAt).Key);
    }

    /// <returns>Null where no sheet is held under this handle (any more).</returns>
    public BenchSession? Find(string handle)
    {
        if (!held.TryGetValue(handle, out var sheet))
            return null;
        held[handle] = (sheet.Session, ++uses);
        return sheet.Session;
    }

    /// <summary>The page is done with it. Closing what is not held does nothing.</summary>
    public void Close(string handle) => held.Remove(handle);
}
