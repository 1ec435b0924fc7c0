namespace Osierwand.Instruments.Line;

/// <summary>Carries lines of text to an instrument and back: a socket, a serial port, a recorded exchange.</summary>
public interface ILineTransport : IAsyncDisposable
{
    /// <param name="line">Without its line feed.</param>
    /// <exception cref="IOException">The line is broken.</exception>
    Task SendAsync(string line, CancellationToken cancel);

    /// <returns>The next line without its line feed; null at the end of the line, also after half a line: what has no line feed was cut
    /// off and is not believed.</returns>
    /// <exception cref="IOException">The line is broken.</exception>
    /// <exception cref="InvalidDataException">It does not end where a line must.</exception>
    Task<string?> ReceiveAsync(CancellationToken cancel);
}
