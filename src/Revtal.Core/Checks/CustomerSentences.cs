namespace Revtal.Core.Checks;

/// <summary>
/// Every finding in words for the customer: one short sentence, no blame, no trade word that a customer need not know.
/// </summary>
public static class CustomerSentences
{
    private static readonly Dictionary<string, string> ByCode = new()
    {
        ["another-module"] = "A module of the right size is in, though not the very one that was noted.",
        ["array-degraded"] = "One drive of the set does not take part yet; the data is there, without its second copy.",
        ["array-checks"] = "The drives read themselves through, as they do from time to time.",
        ["array-gone"] = "The set of drives does not run yet; nothing is written to it until we know why.",
        ["array-inactive"] = "The set of drives does not run yet; nothing is written to it until we know why.",
        ["array-not-told"] = "We have yet to look at the set of drives.",
        ["array-resync"] = "The drives are bringing themselves into step; this takes hours and runs by itself.",
        ["array-waits"] = "The drives have yet to bring themselves into step.",
        ["balance-lost"] = "All of the memory is there; in other slots it would be a little faster.",
        ["bay-order-changed"] = "The drives sit in other bays than before; we put them back in their order.",
        ["boots-old"] = "The machine still starts from the old drive; a setting changes that.",
        ["came-back"] = "The trouble showed itself again; we go on looking for its cause.",
        ["drive-failing"] = "This drive reports wear or errors; its data should be copied soon.",
        ["drive-foreign"] = "We look for the drive that was there: another one sits in its place.",
        ["drive-gone"] = "A drive that stayed in is not seen at the moment; we look at its cable and seat.",
        ["drive-missing"] = "The machine does not see the drive yet.",
        ["drive-other"] = "Another drive than noted was found.",
        ["drive-not-changed"] = "The old drive is still in the machine.",
        ["drive-other-bay"] = "The new drive sits in another bay than noted.",
        ["drive-poor"] = "The drive fitted is not in the state of a new one; we exchange it.",
        ["drive-raw"] = "The new drive is seen; it is yet to be prepared for use.",
        ["drive-size-explained"] =
            "The drive has its full size; computers count it in larger units, so the number looks smaller.",
        ["drive-smaller"] = "The drive is smaller than the one agreed.",
        ["drive-space-unused"] = "Part of the new drive is not in use yet; growing it takes minutes.",
        ["drive-stranger"] = "One drive more than noted was found.",
        ["drive-not-mounted"] = "The new drive is seen; it is yet to be tied in for use.",
        ["drive-unlabelled"] = "The new drive works; its name is yet to be written on it.",
        ["drives-not-read"] = "We have yet to look at the drives.",
        ["in-other-slot"] = "All of the memory is there; two modules sit in each other's place.",
        ["kept-module-missing"] = "A module that stayed in is not seen at the moment.",
        ["kept-back-unknown"] = "All of the memory is there; part of it is kept back, and we look by what.",
        ["kept-module-gone"] = "A module that stayed in is not the one that was there; we look for it.",
        ["link-slower"] = "The drive works, but slower than it could; we look for the reason.",
        ["mapped-below-installed"] = "The machine counts all of the memory but does not use all of it yet.",
        ["metal-loose"] = "One small screw is yet to be found before the machine leaves us.",
        ["module-not-booked"] = "Another piece of the same module is in; we set our records right.",
        ["module-not-changed"] = "The old module is still in the machine.",
        ["module-slower"] = "A module runs slower than the one agreed; we compare it.",
        ["module-smaller"] = "A module is smaller than the one agreed; we compare it.",
        ["start-sign"] = "At its start it showed something that we look into before it leaves us.",
        ["slots-named-otherwise"] = "The machine calls its memory places by other names; that changes nothing.",
        ["module-not-seen"] = "One module is not seen yet; most often it wants to be pressed in once more.",
        ["modules-not-seen"] = "Several modules are not seen yet; we seat them anew.",
        ["more-than-expected"] = "There is more memory in it than was agreed.",
        ["new-modules-not-seen"] = "None of the new modules is seen yet; we look whether this machine takes them.",
        ["nothing-changed"] = "The machine still shows what it had before.",
        ["other-modules"] = "The total is right, made of other modules than noted.",
        ["reading-incomplete"] = "We measure once more: the last measurement left something out.",
        ["reading-older"] = "We measure once more: the last measurement is from before the change.",
        ["reservation-grown"] = "The graphics take a larger share of the memory than before; that can be set.",
        ["serials-repeat"] = "The machine gives all of its modules one number; we compare them by size.",
        ["short"] = "Less memory is seen than was agreed; we look for the reason.",
        ["short-by-system"] = "The system may use less than was agreed; we look for the reason.",
        ["sources-disagree"] = "Two measurements contradict each other; we take them again.",
        ["sources-missing"] = "Some things could not be measured on this machine.",
        ["speed-below-rated"] = "The memory works, but slower than it could; a setting changes that.",
        ["speed-explained"] = "The memory runs as fast as this machine allows.",
        ["system-above-firmware"] = "Two measurements do not fit together; we take them again.",
        ["system-below-firmware"] =
            "The memory is there, but the system may not use all of it; a setting or its version limits it.",
        ["trial-failed"] = "The work it is meant for did not run as it should yet; we look for the reason.",
        ["trial-fine"] = "The work it is meant for ran on it as wished.",
        ["trial-owed"] = "We have yet to try the work it is meant for.",
        ["trial-sluggish"] = "The work it is meant for runs on it, and still waits now and then.",
        ["usable-explained"] = "A small share of the memory is always kept back by the machine itself.",
        ["wrong-machine"] = "This measurement is of another machine; we take it again.",
    };

    /// <summary>All codes of findings.</summary>
    public static IReadOnlyCollection<string> Codes => ByCode.Keys;

    /// <exception cref="KeyNotFoundException">There is no such finding.</exception>
    public static string Of(string code) => ByCode[code];
}
