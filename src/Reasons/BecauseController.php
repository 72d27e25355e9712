<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Job\Jobs;
use App\Job\JobView;
use App\Score\Scoring;
use App\Study\Access;
use App\Study\Role;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Reasons for a whole list. */
#[OA\Tag('Reasons')]
final readonly class BecauseController
{
    public function __construct(private Access $access, private Because $because)
    {
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/group', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'Which single change would help most of the list',
        content: new Model(type: HelpsView::class),
    )]
    public function group(int $id, Groups $groups, #[MapRequestPayload] GroupRequest $request): JsonResponse
    {
        return new JsonResponse($groups->of($this->access->find(Scoring::class, $id, 'batch'), $request));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/because', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'What mainly speaks for the records of the list',
        content: new Model(type: BecauseView::class),
    )]
    public function because(int $id): JsonResponse
    {
        return new JsonResponse($this->because->view($this->access->find(Scoring::class, $id, 'batch')));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/because', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'A worker looks at it', content: new Model(type: JobView::class))]
    public function look(int $id, Jobs $jobs): JsonResponse
    {
        $scoring = $this->access->find(Scoring::class, $id, 'batch', Role::Editor);

        return new JsonResponse($jobs->view($this->because->start($scoring, $this->access->user())), 202);
    }
}
