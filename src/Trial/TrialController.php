<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\Jobs;
use App\Job\JobView;
use App\Preparation\Variant;
use App\Study\Access;
use App\Study\Role;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learners\Learners;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Trials and their Standings. */
#[OA\Tag('Trials')]
final readonly class TrialController
{
    public function __construct(
        private Access $access,
        private Trials $trials,
        private Forecasts $forecasts,
        private Offers $offers,
        private Finalists $finalists,
        private Jobs $jobs,
        private Blends $blends,
    ) {
    }

    #[Route('/api/learners', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The learners that can be tried',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: AboutLearner::class))),
    )]
    public function learners(): JsonResponse
    {
        $this->access->user();

        return new JsonResponse(Learners::all());
    }

    #[Route('/api/studies/{id<\d{1,18}>}/trials', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The Standings', content: new Model(type: StandingsView::class))]
    public function standings(int $id): JsonResponse
    {
        return new JsonResponse($this->trials->standings($this->access->study($id)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/blends', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The trials are being weighed', content: new Model(type: JobView::class))]
    public function blend(int $id, #[MapRequestPayload] BlendRequest $request): JsonResponse
    {
        return new JsonResponse(
            $this->jobs->view($this->blends->start($this->access->study($id, Role::Editor), $this->access->user(), $request)),
            202,
        );
    }

    #[Route('/api/studies/{id<\d{1,18}>}/forecasts', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'About how long a trial would take, by learners that ran here before',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: ForecastView::class))),
    )]
    public function forecasts(int $id): JsonResponse
    {
        return new JsonResponse($this->forecasts->of($this->access->study($id)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/trials', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The trial has begun', content: new Model(type: JobView::class))]
    public function start(int $id, #[MapRequestPayload] TrialRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $variant = $this->access->find(Variant::class, $request->variantId, 'variant', Role::Editor);
        $plan = new TrialPlan(
            $variant,
            $request->learner,
            $request->settings,
            $request->rows,
            $request->choice?->choice(),
            $request->calibration,
        );
        $job = $this->trials->start($study, $this->access->user(), $plan);

        return new JsonResponse($this->jobs->view($job), 202);
    }

    #[Route('/api/studies/{id<\d{1,18}>}/trials/several', methods: ['POST'])]
    #[OA\Response(
        response: 202,
        description: 'All of them have begun',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: JobView::class))),
    )]
    public function several(int $id, #[MapRequestPayload] SeveralRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $variant = $this->access->find(Variant::class, $request->variantId, 'variant', Role::Editor);
        $plans = array_map(
            static fn (string $learner): TrialPlan => new TrialPlan(
                $variant,
                $learner,
                \is_array($request->settings[$learner] ?? null) ? $request->settings[$learner] : [],
                $request->rows,
                $request->choice?->choice(),
                $request->calibration,
            ),
            array_values(array_unique($request->learners)),
        );
        \assert([] !== $plans);

        return new JsonResponse(array_map($this->jobs->view(...), $this->trials->several($study, $this->access->user(), $plans)), 202);
    }

    #[Route('/api/studies/{id<\d{1,18}>}/figure', methods: ['PUT'])]
    #[OA\Response(response: 200, description: 'The Standings, ranked by that figure', content: new Model(type: StandingsView::class))]
    public function rank(int $id, #[MapRequestPayload] RankRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $this->trials->rankBy($study, $this->access->user(), $request->figure);

        return new JsonResponse($this->trials->standings($study));
    }

    #[Route('/api/variants/{id<\d{1,18}>}/offered', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The columns that the preparation offers to trials',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: OfferedView::class))),
    )]
    public function offered(int $id): JsonResponse
    {
        return new JsonResponse($this->offers->of($this->access->find(Variant::class, $id, 'variant')));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/finalists', methods: ['PUT'])]
    #[OA\Response(response: 200, description: 'The Standings with their finalists', content: new Model(type: StandingsView::class))]
    public function finalists(int $id, #[MapRequestPayload] FinalistsRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $this->finalists->choose($study, $this->access->user(), $request);

        return new JsonResponse($this->trials->standings($study));
    }
}
