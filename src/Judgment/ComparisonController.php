<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Study\Access;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\Routing\Attribute\Route;

/** Variants of the preparation held side by side, with quick models on each. */
#[OA\Tag('Preparation')]
final readonly class ComparisonController
{
    public function __construct(private Access $access)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/preparation/compare', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Two to four variants side by side', content: new Model(type: ComparisonView::class))]
    public function compare(int $id, Comparisons $comparisons, #[MapQueryParameter] string $variants = ''): JsonResponse
    {
        return new JsonResponse($comparisons->of($this->access->study($id), explode(',', $variants)));
    }
}
