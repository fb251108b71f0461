using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Revtal.Core;
using Revtal.Core.Orders;

namespace Revtal.Storage;

/// <summary>
/// The shop's people. They are few and asked for at every write, so the list is kept until somebody joins.
/// </summary>
public sealed partial class PeopleStore
{
    // Names that the shop itself goes by: in the journal, for machines that send and customers who answer.
    private static readonly string[] Reserved = ["revtal", "machine", "customer", "collector", "nobody", "system"];
    private readonly Connections connections;
    private readonly Road road;
    private readonly Changes changes;
    private Kept kept = new(null);

    public PeopleStore(Connections connections, Road road, Changes changes)
    {
        (this.connections, this.road, this.changes) = (connections, road, changes);
        changes.Shop += (topic, _) =>
        {
            if (topic is ShopTopic.People or null)
            {
                Forget();
            }
        };
    }

    /// <summary>Everybody, by name.</summary>
    public IReadOnlyList<Person> List()
    {
        var before = Volatile.Read(ref kept);
        if (before.List is { } list && changes.Hears)
        {
            return list;
        }

        var read = connections.Read(db =>
            db.All(
                """SELECT "Id", "Name", "Role" FROM people ORDER BY "Name" """,
                row => new Person(row.GetString(0), row.GetString(1), Enum.Parse<Role>(row.GetString(2)))
            )
        );

        // A slower reader does not put back what it read before somebody joined.
        Interlocked.CompareExchange(ref kept, before with { List = read }, before);
        return read;
    }

    /// <exception cref="RefusedException">Nobody is called so.</exception>
    public Person Need(string id) =>
        List().FirstOrDefault(p => p.Id == id)
        ?? throw RefusedException.NotFound("no-such-person", $"The shop has nobody called “{id}”.");

    private static async Task<IReadOnlyList<Person>> ReadAsync(RevtalDb db, CancellationToken cancel) =>
        [
            .. (await db.People.AsNoTracking().OrderBy(p => p.Name).ToListAsync(cancel)).Select(r => new Person(
                r.Id,
                r.Name,
                Enum.Parse<Role>(r.Role)
            )),
        ];

    private sealed record Kept(IReadOnlyList<Person>? List);

    /// <summary>Adds somebody, or gives a known id a new name or role.</summary>
    /// <exception cref="RefusedException">The id or name cannot be used, or nobody would be left who leads.</exception>
    public async Task<Put<Person>> PutAsync(Person person, Hand hand, CancellationToken cancel = default)
    {
        NeedId(person.Id);
        var named = person with { Name = Words.RequiredLine("The name", person.Name) };
        var done = await road.TakeAsync(
            ShopTopic.People,
            hand,
            async db =>
            {
                var people = await ReadAsync(db, cancel);
                if (
                    named.Role != Role.Lead
                    && people.Any(p => p.Role == Role.Lead)
                    && people.All(p => p.Role != Role.Lead || p.Id == named.Id)
                )
                {
                    throw RefusedException.Rule(
                        "last-lead",
                        $"{named.Name} is the only lead. Make somebody else a lead first."
                    );
                }

                var isNew = people.All(p => p.Id != named.Id);
                db.Entry(
                    new PersonRow
                    {
                        Id = named.Id,
                        Name = named.Name,
                        Role = named.Role.ToString(),
                    }
                ).State = isNew ? EntityState.Added : EntityState.Modified;
                return new Put<Person>(named, isNew);
            },
            cancel
        );
        Forget();
        return done;
    }

    private void Forget() => Volatile.Write(ref kept, new Kept(null));

    /// <returns>The id, where it can be one.</returns>
    /// <exception cref="RefusedException">It cannot.</exception>
    public static string NeedId(string id) =>
        IdShape().IsMatch(id) && !Reserved.Contains(id)
            ? id
            : throw RefusedException.Invalid(
                "person-id",
                $"“{id}” is no id for a person. Use 2 to 20 lower case letters, digits or hyphens, and no name "
                    + $"that the shop itself goes by ({Phrases.Listed(Reserved)})."
            );

    [GeneratedRegex("^[a-z][a-z0-9-]{1,19}$")]
    private static partial Regex IdShape();
}
