using Revtal.Core.Guides;
using SkiaSharp;

namespace Revtal.Documents.Papers;

/// <summary>The shapes of groups of fasteners, drawn.</summary>
internal static class ShapePaths
{
    /// <param name="r">About half its height, in points.</param>
    public static SKPath Of(FastenerShape shape, float r)
    {
        var path = new SKPath();
        switch (shape)
        {
            case FastenerShape.Circle:
                path.AddCircle(0, 0, r);
                break;
            case FastenerShape.Square:
                path.AddRect(new SKRect(-r * 0.9f, -r * 0.9f, r * 0.9f, r * 0.9f));
                break;
            case FastenerShape.Triangle:
                path.AddPoly([new(0, -r * 1.2f), new(r * 1.1f, r * 0.8f), new(-r * 1.1f, r * 0.8f)], true);
                break;
            default:
                path.AddPoly([new(0, -r * 1.2f), new(r * 1.2f, 0), new(0, r * 1.2f), new(-r * 1.2f, 0)], true);
                break;
        }

        return path;
    }
}
