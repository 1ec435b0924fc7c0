using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace Osierwand.Store;

/// <summary>Lets the migrations tool build the model without a server or a database.</summary>
internal sealed class DesignTime : IDesignTimeDbContextFactory<OsierwandDb>
{
    public OsierwandDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<OsierwandDb>();
        OsierwandDb.Configure(options, "Host=127.0.0.1;Database=osierwand");
        return new(options.Options);
    }
}
