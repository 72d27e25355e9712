<?php

declare(strict_types=1);

namespace App\Recheck;

use App\Approval\ApprovalView;
use App\Job\Jobs;
use App\Job\JobView;
use App\Study\Access;
use App\Study\Role;
use App\Trial\Newer;
use App\Trial\Trial;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Models on newer records whose outcomes are known. */
#[OA\Tag('At work')]
final readonly class RecheckController
{
    public function __construct(private Access $access, private Rechecks $rechecks, private Jobs $jobs)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/rechecks', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Rechecks of the study, the newest first',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: RecheckView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse(array_map(
            static fn (Rechecked $r): RecheckView => $r->view(),
            $this->rechecks->of($this->access->study($id)),
        ));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/rechecks', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The trial is held against newer records', content: new Model(type: JobView::class))]
    public function start(int $id, #[MapRequestPayload] RecheckRequest $request): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Editor);

        return new JsonResponse($this->jobs->view($this->rechecks->start($trial, $this->access->user(), $request)), 202);
    }

    #[Route('/api/rechecks/{id<\d{1,18}>}/anew', methods: ['POST'], defaults: ['use' => Newer::LEARN])]
    #[Route('/api/rechecks/{id<\d{1,18}>}/calibrate', methods: ['POST'], defaults: ['use' => Newer::CALIBRATE])]
    #[OA\Response(
        response: 202,
        description: 'The same, fitted on newer records too or calibrated on them, as a trial',
        content: new Model(type: JobView::class),
    )]
    public function anew(int $id, string $use): JsonResponse
    {
        $recheck = $this->access->find(Rechecked::class, $id, 'recheck', Role::Editor);

        return new JsonResponse($this->jobs->view($this->rechecks->anew($recheck, $this->access->user(), $use)), 202);
    }

    #[Route('/api/rechecks/{id<\d{1,18}>}/later', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'Its model is looked at again on a later day', content: new Model(type: ApprovalView::class))]
    public function later(int $id, #[MapRequestPayload] LaterRequest $request): JsonResponse
    {
        $recheck = $this->access->find(Rechecked::class, $id, 'recheck', Role::Owner);

        return new JsonResponse(ApprovalView::of($this->rechecks->lookLater($recheck, $this->access->user(), $request->again)));
    }
}
