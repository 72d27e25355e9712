<?php

declare(strict_types=1);

namespace App\Search;

use App\Http\Problem;
use App\Job\Jobs;
use App\Job\JobView;
use App\Preparation\Variant;
use App\Study\Access;
use App\Study\Role;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Searches over settings. */
#[OA\Tag('Trials')]
final readonly class SearchController
{
    public function __construct(
        private Access $access,
        private Searches $searches,
        private SearchPages $pages,
        private GuidedSearches $guided,
        private GuidedPages $guidedPages,
        private Jobs $jobs,
    ) {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/searches', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Searches of the study, newest first',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: SearchLine::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse($this->pages->of($this->access->study($id)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/searches/weigh', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'What the search would take; nothing is started',
        content: new Model(type: SearchForecastView::class),
    )]
    public function weigh(int $id, #[MapRequestPayload] SearchRequest $request): JsonResponse
    {
        return new JsonResponse($this->searches->weigh($this->access->study($id), $request, $this->variants($request, Role::Reader)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/searches', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The search has begun', content: new Model(type: JobView::class))]
    public function start(int $id, #[MapRequestPayload] SearchRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);

        return new JsonResponse(
            $this->jobs->view($this->searches->start($study, $this->access->user(), $request, $this->variants($request, Role::Editor))),
            202,
        );
    }

    #[Route('/api/searches/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What was tried, and what each setting did', content: new Model(type: SearchView::class))]
    public function one(int $id): JsonResponse
    {
        $search = $this->access->find(Search::class, $id, 'search');

        return $search->isGuided() ? throw Problem::notFound('search over settings') : new JsonResponse($this->pages->view($search));
    }

    #[Route('/api/searches/{id<\d{1,18}>}/on', methods: ['POST'])]
    #[OA\Response(
        response: 202,
        description: 'It goes on where it was stopped, or with more settings',
        content: new Model(type: JobView::class),
    )]
    public function goOn(int $id, #[MapRequestPayload] MoreRequest $request): JsonResponse
    {
        $search = $this->access->find(Search::class, $id, 'search', Role::Editor);

        return new JsonResponse($this->jobs->view($this->searches->goOn($search, $this->access->user(), $request->more)), 202);
    }

    #[Route('/api/searches/{id<\d{1,18}>}/keep', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'It stops, and the best so far becomes a trial', content: new Model(type: JobView::class))]
    public function keep(int $id): JsonResponse
    {
        $search = $this->access->find(Search::class, $id, 'search', Role::Editor);

        return new JsonResponse($this->jobs->view($this->searches->keep($search, $this->access->user())), 202);
    }

    #[Route('/api/studies/{id<\d{1,18}>}/guided', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The guided search has begun', content: new Model(type: JobView::class))]
    public function guide(int $id, #[MapRequestPayload] GuidedRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $variant = $this->access->find(Variant::class, $request->variantId, 'variant', Role::Editor);

        return new JsonResponse($this->jobs->view($this->guided->start($study, $this->access->user(), $variant, $request)), 202);
    }

    #[Route('/api/guided/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'What it made of the columns, how its tries climbed, and the best of each learner',
        content: new Model(type: GuidedView::class),
    )]
    public function guided(int $id): JsonResponse
    {
        $search = $this->access->find(Search::class, $id, 'search');

        return $search->isGuided() ? new JsonResponse($this->guidedPages->view($search)) : throw Problem::notFound('guided search');
    }

    /** @return non-empty-list<Variant> */
    private function variants(SearchRequest $request, Role $role): array
    {
        $variants = array_map(
            fn (int $id): Variant => $this->access->find(Variant::class, $id, 'variant', $role),
            array_values(array_unique($request->variantIds)),
        );
        \assert([] !== $variants);

        return $variants;
    }
}
