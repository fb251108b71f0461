namespace Revtal.Core.Guides;

/// <summary>A guide back to the nodes of its file; read again they give the same guide.</summary>
public static class GuideWriter
{
    /// <summary>The nodes of its file, without lines.</summary>
    public static GuideNode.Map Write(Guide guide)
    {
        var common = Written(f => GuideTable.Facts(f, guide));
        return Written(f =>
            GuideTable.Whole(
                f,
                guide,
                (of, v) =>
                    GuideTable.Variant(
                        of,
                        v,
                        _ => v!.Guide,
                        GuideOverlay.Difference(common, Written(facts => GuideTable.Facts(facts, v!.Guide)))
                    )
            )
        );
    }

    private static GuideNode.Map Written(Action<WritingForm> table)
    {
        var form = new WritingForm();
        table(form);
        return new GuideNode.Map(form.Fields, 0);
    }

    private sealed class WritingForm : GuideForm
    {
        public List<(string Key, GuideNode Value)> Fields { get; } = [];

        public override T Take<T>(string key, FieldType<T> type, T? value, string says, bool needed)
            where T : default
        {
            Put(key, value is null ? null : type.Write(value));
            return value ?? type.None;
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
            Put(key, value is null ? null : Written(f => part(f, value)));
            return value;
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
            Put(
                key,
                values is null or [] ? null : new GuideNode.List([.. values.Select(v => Written(f => part(f, v)))], 0)
            );
            return values ?? [];
        }

        private void Put(string key, GuideNode? node)
        {
            if (node is not null)
            {
                Fields.Add((key, node));
            }
        }
    }
}
