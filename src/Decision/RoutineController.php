<?php

declare(strict_types=1);

namespace App\Decision;

use App\Job\Jobs;
use App\Job\JobView;
use App\Study\Access;
use App\Study\Role;
use App\Trial\Trial;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Scorings that are done again. */
#[OA\Tag('Decisions')]
final readonly class RoutineController
{
    public function __construct(private Access $access, private Routines $routines, private Jobs $jobs)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/routines', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Routines of the study',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: RoutineView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse($this->routines->of($this->access->study($id)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/routines', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'The routine is kept', content: new Model(type: RoutineView::class))]
    public function make(int $id, #[MapRequestPayload] RoutineRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $trial = $this->access->find(Trial::class, $request->trialId, 'trial');

        return new JsonResponse($this->routines->view($this->routines->make($study, $this->access->user(), $trial, $request)), 201);
    }

    #[Route('/api/routines/{id<\d{1,18}>}/run', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'It is done once more', content: new Model(type: JobView::class))]
    public function run(int $id): JsonResponse
    {
        $routine = $this->access->find(Routine::class, $id, 'routine', Role::Editor);

        return new JsonResponse($this->jobs->view($this->routines->start($routine)), 202);
    }

    #[Route('/api/routines/{id<\d{1,18}>}', methods: ['DELETE'])]
    #[OA\Response(response: 204, description: 'It is done no more; what it made stays')]
    public function remove(int $id): Response
    {
        $this->routines->remove($this->access->find(Routine::class, $id, 'routine', Role::Editor), $this->access->user());

        return new Response(null, 204);
    }
}
