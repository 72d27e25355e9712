<?php

declare(strict_types=1);

namespace App\Demo;

use App\Source\UploadView;
use App\Study\Access;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

/** The shelf of examples. */
#[OA\Tag('Table')]
final readonly class ExampleController
{
    public function __construct(private Access $access, private Examples $examples)
    {
    }

    #[Route('/api/examples', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What is on the shelf', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: Example::class))))]
    public function list(): JsonResponse
    {
        $this->access->user();

        return new JsonResponse($this->examples->items());
    }

    #[Route('/api/examples/{name<[a-z]+>}', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'A complete upload of the example', content: new Model(type: UploadView::class))]
    public function take(string $name): JsonResponse
    {
        return new JsonResponse(UploadView::of($this->examples->take($this->access->user(), $name)), 201);
    }
}
