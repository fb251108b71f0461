using Revtal.Core.Captures;

namespace Revtal.Core.Orders;

/// <summary>Everything that can be done to an order. An entry kind is one act; readings are one a phase.</summary>
public enum OrderAct
{
    TakeIn,
    ReadBefore,
    VouchReading,
    ReadOpen,
    ReadAfter,
    TakeScores,
    AskTrial,
    RunTrial,
    TellVariant,
    TellSeal,
    CorrectIntake,
    TellCopy,
    SetPlan,
    NoteLater,
    DropLater,
    MendPlan,
    OfferQuote,
    RevokeQuote,
    Agree,
    Decline,
    BeginCopy,
    AdvanceCopy,
    VerifyCopy,
    SettleOldPart,
    BagOldPart,
    ConfirmStep,
    TakeStepBack,
    BlockStep,
    WaiveGate,
    AddFind,
    TellCameOff,
    TellPosition,
    AdoptGuide,
    BeginReseat,
    BeginSwapTest,
    TrySwap,
    EndSwapTest,
    BeginWatch,
    NoteWatch,
    EndWatch,
    MarkReady,
    ReleaseHold,
    HandBack,
    MakeReport,
    OfferReport,
    AgreeExtra,
    DropExtra,
    MakeInvoice,
    ReverseInvoice,
    TakePayment,
    Park,
    Resume,
    Cancel,
    AddNote,
    AddPhoto,
    SuggestChange,
    LeaveBatch,
    JoinBatch,
    NameOwner,
    ReadHandOver,
    TellPlace,
    Promise,
}

/// <summary>What a line of the journal is about.</summary>
public enum JournalTopic
{
    /// <summary>The job on its way: taken in, planned, agreed, ready, handed back.</summary>
    Job,

    /// <summary>What hands did at the machine.</summary>
    Run,

    /// <summary>What was measured.</summary>
    Readings,

    /// <summary>What people told each other: notes, photos, whose it is and where it lies.</summary>
    Words,
}

/// <summary>Acts by what they are about.</summary>
public static class OrderActs
{
    /// <summary>What an act is about.</summary>
    public static JournalTopic Topic(OrderAct act) =>
        act switch
        {
            OrderAct.ConfirmStep
            or OrderAct.TakeStepBack
            or OrderAct.BlockStep
            or OrderAct.WaiveGate
            or OrderAct.AddFind
            or OrderAct.TellCameOff
            or OrderAct.TellPosition
            or OrderAct.BeginReseat
            or OrderAct.BeginSwapTest
            or OrderAct.TrySwap
            or OrderAct.EndSwapTest
            or OrderAct.BeginCopy
            or OrderAct.AdvanceCopy
            or OrderAct.VerifyCopy
            or OrderAct.SettleOldPart
            or OrderAct.BagOldPart => JournalTopic.Run,
            OrderAct.ReadBefore
            or OrderAct.ReadOpen
            or OrderAct.ReadAfter
            or OrderAct.VouchReading
            or OrderAct.TakeScores
            or OrderAct.RunTrial
            or OrderAct.NoteWatch => JournalTopic.Readings,
            OrderAct.AddNote
            or OrderAct.AddPhoto
            or OrderAct.SuggestChange
            or OrderAct.NameOwner
            or OrderAct.ReadHandOver
            or OrderAct.TellPlace
            or OrderAct.Promise => JournalTopic.Words,
            _ => JournalTopic.Job,
        };

    /// <summary>The act of reading in this phase; inviting a machine to send one is the same act.</summary>
    public static OrderAct Reading(Phase phase) =>
        phase switch
        {
            Phase.Before => OrderAct.ReadBefore,
            Phase.During => OrderAct.ReadOpen,
            _ => OrderAct.ReadAfter,
        };
}
