<?php

declare(strict_types=1);

namespace App\Picture;

use App\Http\Problem;
use App\Register\Looks;
use App\Study\Access;
use App\Table\DataTable;
use App\Table\Tables;
use Dokimos\Core\Picture\Lopsided;
use Dokimos\Core\Picture\MissingPattern;
use Dokimos\Core\Picture\Repeats;
use Dokimos\Core\Picture\StandsApart;
use Dokimos\Core\Picture\Together;
use Dokimos\Core\Picture\TwoColumns;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\Routing\Attribute\Route;

/** A table in pictures, by question. */
#[OA\Tag('Pictures')]
final readonly class PictureController
{
    public function __construct(private Access $access, private Pictures $pictures, private Looks $looks)
    {
    }

    #[Route('/api/tables/{id<\d{1,18}>}/pictures/missing', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What is missing together, and where more often', content: new Model(type: MissingPattern::class))]
    public function missing(int $id): JsonResponse
    {
        return $this->answer($id, 'missing', fn (DataTable $table): object => $this->pictures->missing($table));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/pictures/repeats', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Records that are equal in all columns, or in those named', content: new Model(type: Repeats::class))]
    public function repeats(int $id, #[MapQueryParameter] string $columns = ''): JsonResponse
    {
        $names = '' === $columns ? null : json_decode($columns, true);
        if (null !== $names && (!\is_array($names) || !array_is_list($names) || [] === $names)) {
            throw Problem::invalid('Name the columns as a JSON list.', 'columns');
        }

        if (null === $names) {
            return $this->answer($id, 'repeats', fn (DataTable $table): object => $this->pictures->repeats($table, null));
        }

        return new JsonResponse($this->pictures->repeats($this->table($id), array_map(static fn (mixed $n) => \is_string($n) ? $n : throw Problem::invalid('Name the columns as a JSON list.', 'columns'), $names)));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/pictures/apart', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What stands apart in columns of numbers', content: new Model(type: StandsApart::class))]
    public function apart(int $id): JsonResponse
    {
        return $this->answer($id, 'apart', fn (DataTable $table): object => $this->pictures->apart($table));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/pictures/lopsided', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Long tails and rare values', content: new Model(type: Lopsided::class))]
    public function lopsided(int $id): JsonResponse
    {
        return $this->answer($id, 'lopsided', fn (DataTable $table): object => $this->pictures->lopsided($table));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/pictures/together', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Every pair of columns by strength; the target on unsealed rows', content: new Model(type: Together::class))]
    public function together(int $id): JsonResponse
    {
        return $this->answer($id, 'together', fn (DataTable $table): object => $this->pictures->together($table));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/pictures/two', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Any two columns; the event\'s share on unsealed rows', content: new Model(type: TwoColumns::class))]
    public function two(int $id, #[MapQueryParameter] string $x, #[MapQueryParameter] string $y): JsonResponse
    {
        return new JsonResponse($this->pictures->two($this->table($id), $x, $y));
    }

    /** @param \Closure(DataTable): object $draw */
    private function answer(int $id, string $picture, \Closure $draw): JsonResponse
    {
        $table = $this->table($id);

        return $this->looks->isLarge($table) && !$this->pictures->isKept($table, $picture) ? $this->looks->answer($table, $this->access->user()) : new JsonResponse($draw($table));
    }

    private function table(int $id): DataTable
    {
        $table = $this->access->find(DataTable::class, $id, 'table');

        return Tables::ready($table);
    }
}
