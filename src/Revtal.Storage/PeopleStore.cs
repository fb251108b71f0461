using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>
/// The shop's people. They are few and asked for at every write, so the list is kept until somebody joins.
/// </summary>
public sealed partial class PeopleStore(IDbContextFactory<RevtalDb> databases)
{
    private volatile IReadOnlyList<Person>? known;

    public async Task<IReadOnlyList<Person>> ListAsync(CancellationToken cancel = default)
    {
        if (known is { } list)
        {
            return list;
        }

        await using var db = await databases.CreateDbContextAsync(cancel);
        var rows = await db.People.AsNoTracking().OrderBy(p => p.Name).ToListAsync(cancel);
        return known = [.. rows.Select(r => new Person(r.Id, r.Name, Enum.Parse<Role>(r.Role)))];
    }

    /// <summary>Adds somebody, or gives a known id a new name or role.</summary>
    /// <exception cref="RefusedException">The id or the name cannot be used.</exception>
    public async Task PutAsync(Person person, CancellationToken cancel = default)
    {
        if (!IdShape().IsMatch(person.Id))
        {
            throw RefusedException.Invalid(
                "person-id",
                $"“{person.Id}” is no id. Use 2 to 20 lower case letters, digits or hyphens."
            );
        }

        var row = new PersonRow
        {
            Id = person.Id,
            Name = Words.RequiredLine("The name", person.Name),
            Role = person.Role.ToString(),
        };
        await using var db = await databases.CreateDbContextAsync(cancel);
        db.Entry(row).State = await db.People.AnyAsync(p => p.Id == person.Id, cancel)
            ? EntityState.Modified
            : EntityState.Added;
        await db.SaveChangesAsync(cancel);
        known = null;
    }

    [GeneratedRegex("^[a-z][a-z0-9-]{1,19}$")]
    private static partial Regex IdShape();
}
