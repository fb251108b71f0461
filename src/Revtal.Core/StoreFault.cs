namespace Revtal.Core;

/// <summary>Something in the store that is not as it was recorded.</summary>
/// <param name="Order">Whose it is; null where it is no order's.</param>
/// <param name="Sequence">The entry, by its place in the journal of its order; null where it is none's.</param>
/// <param name="Sentence">What is wrong, and what to do where something can be done.</param>
public sealed record StoreFault(int? Order, int? Sequence, string Sentence);
