<?php

declare(strict_types=1);

namespace App\Approval;

use App\Study\Access;
use App\Study\Role;
use App\Trial\Trial;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** What may be used, and why. */
#[OA\Tag('At work')]
final readonly class ApprovalController
{
    public function __construct(private Access $access, private Approvals $approvals)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/approvals', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Approvals of the study, the newest first',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: ApprovalView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse(array_map(ApprovalView::of(...), $this->approvals->of($this->access->study($id))));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/approvals', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'The trial may be used', content: new Model(type: ApprovalView::class))]
    public function approve(int $id, #[MapRequestPayload] ApprovalRequest $request): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Owner);

        return new JsonResponse(ApprovalView::of($this->approvals->approve($trial, $this->access->user(), $request)), 201);
    }

    #[Route('/api/approvals/{id<\d{1,18}>}/withdraw', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'It may no longer be used', content: new Model(type: ApprovalView::class))]
    public function withdraw(int $id, #[MapRequestPayload] WithdrawRequest $request): JsonResponse
    {
        $approval = $this->access->find(Approval::class, $id, 'approval', Role::Owner);
        $this->approvals->withdraw($approval, $this->access->user(), $request->why);

        return new JsonResponse(ApprovalView::of($approval));
    }
}
