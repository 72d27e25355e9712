<?php

declare(strict_types=1);

namespace App\Combine;

use App\Http\Problem;
use App\Job\Jobs;
use App\Job\JobView;
use App\Study\Access;
use App\Study\Role;
use App\Study\Study;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Combine\CannotCombine;
use Dokimos\Core\Combine\KnownCombinations;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Tables made from others. */
#[OA\Tag('Combine')]
final readonly class CombineController
{
    public function __construct(private Access $access, private Combinations $combinations, private Jobs $jobs, private EntityManagerInterface $entities)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/combinations', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'How tables of the study were made from others', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: CombinationView::class))))]
    public function list(int $id): JsonResponse
    {
        $study = $this->access->study($id);
        /** @var list<KeptCombination> $found */
        $found = $this->entities->createQuery('SELECT c FROM App\Combine\KeptCombination c JOIN c.table t WHERE t.study = :study')->setParameter('study', $study)->getResult();

        return new JsonResponse(array_map(static fn (KeptCombination $c) => new CombinationView($c->table()->id(), $c->source()->id(), $c->source()->name(), $c->other()?->id(), $c->other()?->name(), $c->combination()->sentence()), $found));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/combinations', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'What it would cost', content: new Model(type: CombineView::class))]
    #[OA\Response(response: 202, description: 'The table is being made', content: new Model(type: JobView::class))]
    public function combine(int $id, #[MapRequestPayload] CombineRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $table = $this->table($study, $request->tableId, 'tableId');
        $other = null === $request->otherId ? null : $this->table($study, $request->otherId, 'otherId');
        try {
            $combination = KnownCombinations::fromArray($request->combination);
        } catch (CannotCombine $e) {
            throw Problem::invalid($e->getMessage(), 'combination');
        }

        $view = $this->combinations->preview($table, $other, $combination);

        return $request->preview ? new JsonResponse($view) : new JsonResponse($this->jobs->view($this->combinations->start($table, $other, $combination, $request->name, $this->access->user())), 202);
    }

    #[Route('/api/tables/{id<\d{1,18}>}/follow', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'What it would cost', content: new Model(type: CombineView::class))]
    #[OA\Response(response: 202, description: 'The table is being made by the same combination', content: new Model(type: JobView::class))]
    public function follow(int $id, #[MapRequestPayload] FollowRequest $request): JsonResponse
    {
        $made = $this->access->find(DataTable::class, $id, 'table', Role::Editor);
        $combination = $this->entities->find(KeptCombination::class, $id) ?? throw new Problem(409, \sprintf('%s was imported, not made from other tables: there is no combination to follow.', $made->name()));
        $table = $this->table($made->study(), $request->tableId, 'tableId');
        $view = $this->combinations->preview($table, $combination->other(), $combination->combination());

        return $request->preview ? new JsonResponse($view) : new JsonResponse($this->jobs->view($this->combinations->start($table, $combination->other(), $combination->combination(), $request->name, $this->access->user())), 202);
    }

    private function table(Study $study, int $id, string $field): DataTable
    {
        $table = $this->entities->find(DataTable::class, $id);

        return null !== $table && $table->study() === $study && $table->isReady() ? $table : throw Problem::invalid('Choose a table of this study.', $field);
    }
}
