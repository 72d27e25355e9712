<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\Jobs;
use App\Job\JobView;
use App\Study\Access;
use App\Study\Role;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** What follows from a trial: its learning curve, and the same one with fewer columns. */
#[OA\Tag('Trials')]
final readonly class CurveController
{
    public function __construct(private Access $access, private Curves $curves, private Reductions $reductions, private Jobs $jobs)
    {
    }

    #[Route('/api/trials/{id<\d{1,18}>}/curve', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The learning curve, as far as it is drawn', content: new Model(type: CurveView::class))]
    public function curve(int $id): JsonResponse
    {
        return new JsonResponse($this->curves->view($this->access->find(Trial::class, $id, 'trial')));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/curve', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The learning curve is being drawn', content: new Model(type: JobView::class))]
    public function draw(int $id): JsonResponse
    {
        return new JsonResponse(
            $this->jobs->view($this->curves->start($this->access->find(Trial::class, $id, 'trial', Role::Editor), $this->access->user())),
            202,
        );
    }

    #[Route('/api/trials/{id<\d{1,18}>}/reduce', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The same trial without these columns has begun', content: new Model(type: JobView::class))]
    public function reduce(int $id, #[MapRequestPayload] ReduceRequest $request): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Editor);

        return new JsonResponse(
            $this->jobs->view($this->reductions->without($trial, $this->access->user(), array_values(array_unique($request->columns)))),
            202,
        );
    }
}
