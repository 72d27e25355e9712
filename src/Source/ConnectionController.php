<?php

declare(strict_types=1);

namespace App\Source;

use App\Account\SignedIn;
use Dokimos\Core\Format\ServerSample;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Databases on servers as sources of tables. Everyone has their own. */
#[OA\Tag('Table')]
final readonly class ConnectionController
{
    public function __construct(private SignedIn $signedIn, private Connections $connections, private Uploads $uploads)
    {
    }

    #[Route('/api/connections', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Your connections', content: new Model(type: ConnectionsView::class))]
    public function list(): JsonResponse
    {
        return new JsonResponse(new ConnectionsView(array_keys($this->connections->hosts()), array_map(ConnectionView::of(...), $this->connections->of($this->signedIn->user()))));
    }

    #[Route('/api/connections', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'It was tried and kept', content: new Model(type: ConnectionView::class))]
    public function add(#[MapRequestPayload] ConnectionRequest $request): JsonResponse
    {
        return new JsonResponse(ConnectionView::of($this->connections->add($this->signedIn->user(), $request)), 201);
    }

    #[Route('/api/connections/sample', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'The query that draws the sample in the database',
        content: new Model(type: SampleView::class),
    )]
    public function sample(#[MapRequestPayload] SampleRequest $request): JsonResponse
    {
        return new JsonResponse(new SampleView(null === $request->by
            ? ServerSample::hashed($request->part, $request->key, $request->share)
            : ServerSample::stratified($request->part, $request->key, $request->by, $request->each)));
    }

    #[Route('/api/connections/{id<\d{1,18}>}', methods: ['DELETE'])]
    #[OA\Response(response: 204, description: 'It is forgotten; tables that were read from it stay')]
    public function remove(int $id): JsonResponse
    {
        $this->connections->remove($this->connections->find($this->signedIn->user(), $id));

        return new JsonResponse(null, 204);
    }

    #[Route('/api/connections/{id<\d{1,18}>}/upload', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'A complete upload that stands for the database', content: new Model(type: UploadView::class))]
    public function upload(int $id): JsonResponse
    {
        return new JsonResponse(UploadView::of($this->uploads->ofConnection($this->connections->find($this->signedIn->user(), $id))), 201);
    }
}
