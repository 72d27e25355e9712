<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Study\Access;
use App\Trial\Trial;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\Routing\Attribute\Route;

/** Two to four trials side by side. */
#[OA\Tag('Judgment')]
final readonly class SideBySideController
{
    public function __construct(private Access $access, private SideBySide $beside)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/trials/beside', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Figures, curves, settings and what they part on; the first trial named is what the others are held against',
        content: new Model(type: SideBySideView::class),
    )]
    public function beside(int $id, #[MapQueryParameter] string $trials = '', #[MapQueryParameter] ?float $at = null): JsonResponse
    {
        return new JsonResponse($this->beside->of($this->access->study($id), $this->named($trials), $at));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/trials/beside/records', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Records that the trials part on', content: new Model(type: RecordsBesideView::class))]
    public function records(
        int $id,
        #[MapQueryParameter] string $trials = '',
        #[MapQueryParameter] ?float $at = null,
        #[MapQueryParameter] string $called = '',
        #[MapQueryParameter] int $offset = 0,
        #[MapQueryParameter] int $limit = 50,
    ): JsonResponse {
        return new JsonResponse($this->beside->records($this->access->study($id), $this->named($trials), $at, $called, $offset, $limit));
    }

    /** @return list<Trial> */
    private function named(string $ids): array
    {
        if (1 !== preg_match('/^\d{1,18}(,\d{1,18}){0,9}$/', $ids)) {
            throw Problem::invalid('Name two to four trials by their ids, with commas between them.', 'trials');
        }

        return array_map(fn (string $id): Trial => $this->access->find(Trial::class, (int) $id, 'trial'), explode(',', $ids));
    }
}
