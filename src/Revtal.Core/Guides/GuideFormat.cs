namespace Revtal.Core.Guides;

/// <summary>What a guide file may hold, told from the table that reads and writes it.</summary>
public static class GuideFormat
{
    /// <summary>The keys of the whole file.</summary>
    public static ValueShape.Map File { get; } =
        Told(f => GuideTable.Whole(f, null, (of, v) => GuideTable.Variant(of, v, _ => null!, null)));

    private static ValueShape.Map Told(Action<TellingForm> table)
    {
        var form = new TellingForm();
        table(form);
        return new ValueShape.Map(form.Fields);
    }

    private sealed class TellingForm : GuideForm
    {
        public List<FieldFact> Fields { get; } = [];

        public override T Take<T>(string key, FieldType<T> type, T? value, string says, bool needed)
            where T : default
        {
            Fields.Add(new FieldFact(key, needed, says, type.Shape));
            return type.None;
        }

        public override T? Part<T>(
            string key,
            string what,
            Func<GuideForm, T?, T> part,
            T? value,
            string says,
            bool needed
        )
            where T : class
        {
            Fields.Add(new FieldFact(key, needed, says, Told(f => part(f, null))));
            return null;
        }

        public override IReadOnlyList<T> Parts<T>(
            string key,
            string what,
            int most,
            Func<GuideForm, T?, T> part,
            IReadOnlyList<T>? values,
            string says
        )
            where T : class
        {
            Fields.Add(new FieldFact(key, false, says, new ValueShape.List(Told(f => part(f, null)), most)));
            return [];
        }
    }
}
