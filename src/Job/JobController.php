<?php

declare(strict_types=1);

namespace App\Job;

use App\Study\Access;
use App\Study\Role;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

/** Running work. */
#[OA\Tag('Jobs')]
final readonly class JobController
{
    public function __construct(private Access $access, private Jobs $jobs)
    {
    }

    #[Route('/api/jobs', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Work that runs or ended lately',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: JobView::class))),
    )]
    public function list(): JsonResponse
    {
        return new JsonResponse($this->jobs->of($this->access->user()));
    }

    #[Route('/api/jobs/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'One piece of work', content: new Model(type: JobView::class))]
    public function one(int $id): JsonResponse
    {
        return new JsonResponse($this->jobs->view($this->access->find(Job::class, $id, 'job')));
    }

    #[Route('/api/jobs/{id<\d{1,18}>}/cancel', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'It will stop within two seconds', content: new Model(type: JobView::class))]
    public function cancel(int $id): JsonResponse
    {
        $job = $this->access->find(Job::class, $id, 'job', Role::Editor);
        $this->jobs->cancel($job);

        return new JsonResponse($this->jobs->view($job));
    }
}
