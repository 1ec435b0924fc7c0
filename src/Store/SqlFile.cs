using Microsoft.EntityFrameworkCore.Migrations;

namespace Osierwand.Store;

/// <summary>The files of the folder "Sql": what a database needs that EF does not know.</summary>
internal static class SqlFile
{
    /// <param name="name">As "books.sql".</param>
    /// <exception cref="InvalidOperationException">There is no such file in this assembly.</exception>
    public static void RunFile(this MigrationBuilder migration, string name)
    {
        using var file =
            typeof(SqlFile).Assembly.GetManifestResourceStream(name)
            ?? throw new InvalidOperationException($"Sql/{name} is no resource of this assembly.");
        using var reader = new StreamReader(file);
        migration.Sql(reader.ReadToEnd());
    }
}
