<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Study\Access;
use App\Study\Role;
use App\Trial\Trial;
use Dokimos\Core\Task\CutOff;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\Routing\Attribute\Route;

/** The judgment of one trial. */
#[OA\Tag('Judgment')]
final readonly class JudgmentController
{
    public function __construct(
        private Access $access,
        private Judgments $judgments,
        private Groupings $groupings,
        private Opponents $opponents,
    ) {
    }

    #[Route('/api/trials/{id<\d{1,18}>}/judgment', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Figures beside the baseline', content: new Model(type: JudgmentView::class))]
    public function judgment(int $id): JsonResponse
    {
        return new JsonResponse($this->judgments->of($this->access->find(Trial::class, $id, 'trial')));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/tree', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A decision tree, leaf by leaf', content: new Model(type: TreeView::class))]
    public function tree(int $id): JsonResponse
    {
        return new JsonResponse($this->judgments->tree($this->access->find(Trial::class, $id, 'trial')));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/records', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The records behind a cell of the confusion matrix',
        content: new Model(type: RecordsView::class),
    )]
    public function records(
        int $id,
        #[MapQueryParameter] string $cell = 'fn',
        #[MapQueryParameter] float $cutoff = 0.5,
        #[MapQueryParameter] int $offset = 0,
        #[MapQueryParameter] int $limit = 50,
    ): JsonResponse {
        if (!\in_array($cell, ['tp', 'fp', 'fn', 'tn'], true)) {
            throw Problem::invalid('A cell is one of tp, fp, fn, tn.', 'cell');
        }

        return new JsonResponse($this->judgments->records(
            $this->access->find(Trial::class, $id, 'trial'),
            $cell,
            CutOff::at($cutoff),
            $offset,
            $limit,
        ));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/worst', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The validation rows that a number or several classes were most wrong for; of several classes also those of one cell: came as one class, named another',
        content: new Model(type: WorstView::class),
    )]
    public function worst(
        int $id,
        #[MapQueryParameter] int $limit = 50,
        #[MapQueryParameter] ?string $came = null,
        #[MapQueryParameter] ?string $named = null,
    ): JsonResponse {
        return new JsonResponse($this->judgments->worst($this->access->find(Trial::class, $id, 'trial'), $limit, $came, $named));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/groups', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Figures by the values of one column', content: new Model(type: GroupsView::class))]
    public function groups(int $id, #[MapQueryParameter] string $by = '', #[MapQueryParameter] float $cutoff = 0.5): JsonResponse
    {
        return new JsonResponse($this->groupings->of($this->access->find(Trial::class, $id, 'trial'), $by, CutOff::at($cutoff)));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/against', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Two trials on the same validation rows', content: new Model(type: AgainstView::class))]
    public function against(int $id, #[MapQueryParameter] int $other = 0, #[MapQueryParameter] float $cutoff = 0.5): JsonResponse
    {
        return new JsonResponse($this->opponents->of(
            $this->access->find(Trial::class, $id, 'trial'),
            $this->access->find(Trial::class, $other, 'trial'),
            CutOff::at($cutoff),
        ));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/seal', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'The seal is open', content: new Model(type: JudgmentView::class))]
    public function openSeal(int $id): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Editor);
        $this->judgments->openSeal($trial, $this->access->user());

        return new JsonResponse($this->judgments->of($trial));
    }
}
