using Microsoft.Extensions.Options;
using Microsoft.IdentityModel.Tokens;
using Revtal.Contracts;
using Revtal.Core.Orders;
using Revtal.Documents.Papers;
using Revtal.Service.Http;
using Revtal.Service.Shop;
using Revtal.Storage;

namespace Revtal.Service.Reports;

/// <summary>Reports and their proofs: at the desk, behind a customer's link, and for whoever holds the paper.</summary>
public static class ReportEndpoints
{
    private const string Jose = "application/jose";

    public static IServiceCollection AddReports(this IServiceCollection services) =>
        services.AddSingleton<Proofs>().AddSingleton<ReportDesk>();

    public static void MapReports(this IEndpointRouteBuilder api)
    {
        var order = api.MapGroup("/orders/{number:int}").WithTags("report");
        order
            .MapGet(
                "/report",
                (int number, ReportDesk reports, CancellationToken cancel) => reports.ShowAsync(number, cancel)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getReport")
            .WithSummary("The report that was made last, else as it would be made now");
        order
            .MapPost(
                "/report",
                (int number, Sender sender, ReportDesk reports, CancellationToken cancel) =>
                    reports.MakeAsync(number, sender, cancel)
            )
            .WithName("makeReport")
            .WithSummary("Make the report as the order stands, and sign it");
        order
            .MapPost(
                "/report/link",
                (
                    int number,
                    OfferRequest request,
                    Sender sender,
                    ReportDesk reports,
                    HttpContext context,
                    CancellationToken cancel
                ) => reports.OfferAsync(number, request, sender, context, cancel)
            )
            .WithName("offerReport")
            .WithSummary("Make a link by which the customer reads the report; it is shown once");
        order
            .MapGet(
                "/report.pdf",
                async (
                    int number,
                    ReportDesk reports,
                    Press press,
                    IOptions<ShopOptions> shop,
                    HttpContext context,
                    CancellationToken cancel
                ) => Print(await reports.LastAsync(number, cancel), press, shop.Value, context)
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getReportPaper")
            .Produces<byte[]>(contentType: "application/pdf")
            .WithSummary("The report that was made last, on paper");
        order
            .MapGet(
                "/proof",
                async (int number, ReportDesk reports, CancellationToken cancel) =>
                    File(await reports.LastAsync(number, cancel))
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("getProof")
            .Produces<string>(contentType: Jose)
            .WithSummary("Its proof: a JSON Web Signature");

        // The link is all that guards what it opens: nothing on the way may keep it.
        var customer = api.MapGroup("/reports/{link}").WithTags("customer").AddEndpointFilter(UnkeptAsync);
        customer
            .MapGet(
                "/",
                async (string link, ReportDesk reports, CancellationToken cancel) =>
                    (await reports.OpenAsync(link, cancel)).View
            )
            .WithName("readReport")
            .WithSummary("What the customer reads behind a link");
        customer
            .MapGet(
                "/report.pdf",
                async (
                    string link,
                    ReportDesk reports,
                    Press press,
                    IOptions<ShopOptions> shop,
                    HttpContext context,
                    CancellationToken cancel
                ) => Print((await reports.OpenAsync(link, cancel)).Made, press, shop.Value, context)
            )
            .WithName("readReportPaper")
            .Produces<byte[]>(contentType: "application/pdf")
            .WithSummary("The same on paper");
        customer
            .MapGet(
                "/proof",
                async (string link, ReportDesk reports, CancellationToken cancel) =>
                    File((await reports.OpenAsync(link, cancel)).Made)
            )
            .WithName("readProof")
            .Produces<string>(contentType: Jose)
            .WithSummary("Its proof: a JSON Web Signature");

        var proofs = api.MapGroup("/proofs").WithTags("customer");
        proofs
            .MapGet("/{id}", (string id, ReportDesk reports, CancellationToken cancel) => reports.MarkAsync(id, cancel))
            .WithName("getProofMark")
            .WithSummary("What is told of a proof by its id alone");
        proofs
            .MapPost(
                "/check",
                (ProofCheckRequest request, ReportDesk reports, CancellationToken cancel) =>
                    reports.CheckAsync(request.Proof, cancel)
            )
            .WithName("checkProof")
            .WithSummary("Whether the shop signed it, and nothing of it was changed since");

        var keys = api.MapGroup("/shop/keys").WithTags("shop");
        keys.MapGet("/", Keys)
            .WithName("getKeys")
            .WithSummary("The keys by which the shop signs or signed, as a JSON Web Key Set");
        keys.MapPost(
                "/",
                (ShopKey key) =>
                {
                    key.Turn();
                    return Keys(key);
                }
            )
            .WithMetadata(new ApiFacts(RefusesByRule: true))
            .WithName("turnKey")
            .WithSummary("Sign by a new key from now on; what the old one signed stays good");
    }

    private static ValueTask<object?> UnkeptAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        context.HttpContext.Response.Headers.CacheControl = "no-store";
        return next(context);
    }

    private static IResult Print(MadeReport made, Press press, ShopOptions shop, HttpContext context)
    {
        var report = Proofs.Report(made.Proof);
        return press.Print(
            context.Response,
            $"report-{report.Order}.pdf",
            printing =>
                ReportPaper.Write(report, made.Id, PublicAddress.Reached(shop, context, $"proof/{made.Id}"), printing)
        );
    }

    private static IResult File(MadeReport made) =>
        Results.Bytes(System.Text.Encoding.ASCII.GetBytes(made.Proof), Jose, $"proof-{made.Id}.jws");

    private static ShopKeys Keys(ShopKey key) => new([.. key.Ids().Select(id => View(key, id)).OfType<ShopKeyView>()]);

    private static ShopKeyView? View(ShopKey keys, string id)
    {
        using var key = keys.Public(id);
        return key?.ExportParameters(includePrivateParameters: false).Q is { X: { } x, Y: { } y }
            ? new ShopKeyView("EC", "P-256", Base64UrlEncoder.Encode(x), Base64UrlEncoder.Encode(y), id, "sig", "ES256")
            : null;
    }
}
