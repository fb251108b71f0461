namespace Revtal.Core;

/// <summary>What of the shop changes outside its orders.</summary>
public enum ShopTopic
{
    /// <summary>The catalogue, the shelf and its ledger.</summary>
    Parts,

    /// <summary>Published guides, drafts and what orders suggest for them.</summary>
    Guides,

    /// <summary>Who works here, and as what.</summary>
    People,

    /// <summary>The simulated machines.</summary>
    Dummies,

    /// <summary>Machines that told of themselves before there was an order.</summary>
    Arrivals,
}
