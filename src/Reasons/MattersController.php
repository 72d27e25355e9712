<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Http\Problem;
use App\Job\Jobs;
use App\Job\JobView;
use App\Judgment\TreeView;
use App\Study\Access;
use App\Trial\Trial;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\Routing\Attribute\Route;

/** What matters over all records. */
#[OA\Tag('Reasons')]
final readonly class MattersController
{
    public function __construct(
        private Access $access,
        private Matters $matters,
        private Effects $effects,
        private StandIns $standIns,
        private Shuffled $shuffled,
        private ClearPairs $clear,
    ) {
    }

    #[Route('/api/trials/{id<\d{1,18}>}/matters', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What each column matters, three ways', content: new Model(type: MattersView::class))]
    public function matters(int $id, #[MapQueryParameter] ?string $class = null): JsonResponse
    {
        return new JsonResponse($this->matters->of($this->access->find(Trial::class, $id, 'trial'), $class));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/matters', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'A worker looks at it', content: new Model(type: JobView::class))]
    public function look(int $id, Jobs $jobs, #[MapQueryParameter] ?string $class = null): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial');

        return new JsonResponse($jobs->view($this->matters->start($trial, $this->access->user(), $class)), 202);
    }

    #[Route('/api/trials/{id<\d{1,18}>}/shuffled', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'What a figure loses when columns are shuffled',
        content: new Model(type: ShuffledView::class),
    )]
    public function shuffled(int $id, #[MapQueryParameter] string $by = '', #[MapQueryParameter] int $repeats = 1): JsonResponse
    {
        return new JsonResponse($this->shuffled->view($this->access->find(Trial::class, $id, 'trial'), $by, $repeats));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/shuffled', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'A worker shuffles', content: new Model(type: JobView::class))]
    public function shuffle(int $id, Jobs $jobs, #[MapQueryParameter] string $by = '', #[MapQueryParameter] int $repeats = 1): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial');

        return new JsonResponse($jobs->view($this->shuffled->start($trial, $this->access->user(), $by, $repeats)), 202);
    }

    #[Route('/api/trials/{id<\d{1,18}>}/effect', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What answers do as one column changes', content: new Model(type: ColumnEffectView::class))]
    public function effect(
        int $id,
        #[MapQueryParameter] string $column = '',
        #[MapQueryParameter] ?string $class = null,
        #[MapQueryParameter] string $records = '',
    ): JsonResponse {
        if ('' !== $records && 1 !== preg_match('/^\d{1,18}(,\d{1,18}){0,9}$/', $records)) {
            throw Problem::invalid('Name records by their numbers, with commas between them.', 'records');
        }
        $named = '' === $records ? [] : array_map(intval(...), explode(',', $records));

        return new JsonResponse($this->effects->of($this->access->find(Trial::class, $id, 'trial'), $column, $class, $named));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/effect/words', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What the words of a text do to answers', content: new Model(type: WordsView::class))]
    public function words(int $id, #[MapQueryParameter] string $column = '', #[MapQueryParameter] ?string $class = null): JsonResponse
    {
        return new JsonResponse($this->effects->words($this->access->find(Trial::class, $id, 'trial'), $column, $class));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/effect/two', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Mean answers as two columns change', content: new Model(type: TwoEffectsView::class))]
    public function map(
        int $id,
        #[MapQueryParameter] string $x = '',
        #[MapQueryParameter] string $y = '',
        #[MapQueryParameter] ?string $class = null,
    ): JsonResponse {
        return new JsonResponse($this->effects->map($this->access->find(Trial::class, $id, 'trial'), $x, $y, $class));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/pairs', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Pairs of columns that act together',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: PairView::class))),
    )]
    public function pairs(int $id, #[MapQueryParameter] ?string $class = null): JsonResponse
    {
        return new JsonResponse($this->matters->pairs($this->access->find(Trial::class, $id, 'trial'), $class));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/pairs/clear', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'How much pairs seem to do by chance', content: new Model(type: ClearPairsView::class))]
    public function clear(int $id, #[MapQueryParameter] ?string $class = null): JsonResponse
    {
        return new JsonResponse($this->clear->view($this->access->find(Trial::class, $id, 'trial'), $class));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/pairs/clear', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'A worker finds out', content: new Model(type: JobView::class))]
    public function findClear(int $id, Jobs $jobs, #[MapQueryParameter] ?string $class = null): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial');

        return new JsonResponse($jobs->view($this->clear->start($trial, $this->access->user(), $class)), 202);
    }

    #[Route('/api/trials/{id<\d{1,18}>}/stand-ins', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Simple models that imitate it',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: StandInView::class))),
    )]
    public function standIns(int $id, #[MapQueryParameter] ?string $class = null): JsonResponse
    {
        return new JsonResponse($this->standIns->of($this->access->find(Trial::class, $id, 'trial'), $class));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/stand-ins/tree', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A stand-in that is a tree, leaf by leaf', content: new Model(type: TreeView::class))]
    public function standInTree(int $id, #[MapQueryParameter] int $size = 0, #[MapQueryParameter] ?string $class = null): JsonResponse
    {
        return new JsonResponse($this->standIns->tree($this->access->find(Trial::class, $id, 'trial'), $class, $size));
    }
}
