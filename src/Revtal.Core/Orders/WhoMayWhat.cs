namespace Revtal.Core.Orders;

/// <summary>Who may use an operation of the API.</summary>
/// <param name="Roles">Empty where nobody need be signed in: a code, a link or a password in the request proves who
/// asks.</param>
/// <param name="Code">Of the refusal that others get.</param>
/// <param name="Why">What they are told.</param>
/// <param name="WantsPassword">Whether a badge or a few digits at a bench tablet are too little for it.</param>
public sealed record Right(IReadOnlySet<Role> Roles, string Code, string Why, bool WantsPassword = false)
{
    /// <summary>Whether it is asked by people who have not signed in.</summary>
    public bool IsOpen => Roles.Count == 0;

    /// <param name="by">What the session is used with.</param>
    /// <exception cref="RefusedException">It is for somebody else, or done elsewhere; the message says so.</exception>
    public void Need(Role role, SessionKind by)
    {
        if (!IsOpen && !Roles.Contains(role))
        {
            throw new RefusedException(RefusalKind.Role, Code, Why);
        }

        if (WantsPassword && by == SessionKind.Tablet)
        {
            throw new RefusedException(
                RefusalKind.Role,
                "at-a-tablet",
                "This is not done at a bench tablet. Sign in with your password, at another screen."
            );
        }
    }
}

/// <summary>
/// The table of operations and roles: who may use what at all. When an order lets an act be done stands in
/// <see cref="WhenMayWhat"/>, and there too what of an order's work is the technicians'.
/// </summary>
public static class WhoMayWhat
{
    private static readonly Right Open = new(new HashSet<Role>(), "", "");

    private static readonly Right Look = new(
        new HashSet<Role> { Role.Desk, Role.Technician, Role.Lead, Role.Wall },
        "",
        ""
    );

    private static readonly Right Work = new(
        new HashSet<Role> { Role.Desk, Role.Technician, Role.Lead },
        "wall-looks",
        "A wall screen only looks. Sign in as somebody of the bench."
    );

    private static readonly Dictionary<string, Right> Table = new[]
    {
        (
            Open,
            Named(
                """
                answerQuote readQuote getSession signIn signInToDemo signOut useSetUpLink
                readSetUpLink enrolTablet changeHands signInElsewhere readReport readReportPaper
                readProof getProofMark checkProof getKeys readDates
                """
            )
        ),
        (
            Look,
            Named(
                """
                getBoard getDates getCards getMachine matchGuides getPicture listDrafts getCollector
                streamChanges searchOrders getOrder getEntries getCheck getCapture lookAtAdoption
                getRunPaper getDriveOptions getOptions getShelf getQuote getQuotePaper getBagLabels
                getReport getReportPaper getProof getInvoice exportInvoices listInvoices findInvoice getInvoicePaper
                getParts getPartItems getLedger findPart getPart exportCatalogue exportShelf
                listArrivals getArrival getBatch getBatchRun getBatchReport getScores listDummies
                getDummy captureDummy listGuides getGuide getGuideFile listRevisions compareGuides
                getSigns getHere getGuideSchema getDraft listSuggestions exportGuide exportLibrary getShop
                """
            )
        ),
        (
            Work,
            Named(
                """
                decode previewPlan findLayout checkFit readBatchList previewBatchPlan checkGuide
                compareExchange takeIn takeReading inviteReading addPhoto keepPicture markReady
                handBack park correctIntake vouchReading releaseHold resume cancel addNote
                confirmStep blockStep takeBackStep waiveGate addFind tellCameOff tellPosition
                adoptGuide reseat tellVariant tellSeal tellCopy suggest setPlan mend noteLater
                dropLater makeReport offerReport makeInvoice takePayment agreeExtra dropExtra reverseInvoice
                agreePlan declinePlan offerQuote revokeQuote beginCopy advanceCopy
                verifyCopy settleOldPart bagOldPart putPart receiveParts movePart splitKit
                importCatalogue importShelf takeArrival inviteArrival takeInBatch planBatch
                agreeBatch declineBatch offerBatchQuote revokeBatchQuote spreadBatch
                confirmBatchStep readyBatch handBackBatch leaveBatch joinBatch nameOwner
                readHandOver tellHere tellPlace promise takeScores askTrial runTrial takeScoresFile
                beginSwapTest trySwap endSwapTest beginWatch noteWatch endWatch makeDummy actOnDummy
                sendDummy saveDraft beginDraft mergeExchange
                """
            )
        ),
        (
            Lead("lead-publishes", "Guides are published by a lead."),
            Named("publishGuide publishSketch publishDraft importLibrary")
        ),
        (Lead("lead-discards", "A draft is thrown away by a lead."), Named("discardDraft")),
        (
            Lead("lead-decides", "What goes into a guide is decided by a lead."),
            Named("acceptSuggestion declineSuggestion")
        ),
        (Proved(Lead("lead-names", "People are added by a lead.")), Named("putPerson invitePerson makeBadge")),
        (Proved(Lead("lead-locks", "Who may come in is a lead's to end.")), Named("endAccess")),
        (Proved(Lead("lead-enrols", "Bench tablets are a lead's.")), Named("listTablets makeTablet dropTablet")),
        (
            Proved(Lead("lead-tells", "What other programs are told is a lead's.")),
            Named(
                """
                listWebhooks makeWebhook changeWebhook dropWebhook changeWebhookSecret tryWebhook
                listWebhookMessages resendWebhookMessages
                """
            )
        ),
        (
            Lead("lead-verifies", "The store is looked through by a lead."),
            Named("verifyStore getVerification getStore getHeads")
        ),
        (
            Proved(Lead("lead-keeps", "Backups are a lead's: they hold what opens everybody's sign-in.")),
            Named("makeBackup fetchBackup")
        ),
        (Proved(Lead("lead-turns", "The key by which the shop signs is a lead's to change.")), Named("turnKey")),
        (Lead("lead-watches", "Who signed in when is told to leads."), Named("listAudit")),
        // One's own.
        (Look, Named("listSessions endSession listNotices")),
        (Work, Named("readNotices")),
        (
            Proved(Work),
            Named("makeToken makeCalendar changePassword choosePin putMail beginCodes confirmCodes endCodes")
        ),
    }.SelectMany(row => row.Item2.Select(name => KeyValuePair.Create(name, row.Item1))).ToDictionary();

    /// <summary>Every operation that the table knows.</summary>
    public static IReadOnlyCollection<string> Operations => Table.Keys;

    /// <param name="operation">Its name in the API's description.</param>
    /// <exception cref="KeyNotFoundException">It has no line in the table, and so is for nobody.</exception>
    public static Right Of(string operation) => Table[operation];

    private static Right Proved(Right right) => right with { WantsPassword = true };

    private static Right Lead(string code, string why) => new(new HashSet<Role> { Role.Lead }, code, why);

    private static string[] Named(string names) =>
        names.Split((char[])[' ', '\n'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
}
