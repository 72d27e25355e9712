<?php

declare(strict_types=1);

namespace App\TakeAway;

use App\Job\Jobs;
use App\Job\JobView;
use App\Study\Access;
use App\Study\Role;
use App\Trial\Trial;
use Dokimos\Core\TakeAway\Form;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Models that leave, with their proofs, and models that score where data lie. */
#[OA\Tag('At work')]
final readonly class TakeAwayController
{
    public function __construct(private Access $access, private TakeAways $takeAways, private Jobs $jobs)
    {
    }

    #[Route('/api/trials/{id<\d{1,18}>}/take-away', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What it can be taken away as, and what was', content: new Model(type: TakeAwayView::class))]
    public function view(int $id): JsonResponse
    {
        return new JsonResponse($this->takeAways->view($this->access->find(Trial::class, $id, 'trial')));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/take-away', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'It was run by somebody else and is handed out', content: new Model(type: TakenView::class))]
    public function take(int $id, #[MapRequestPayload] TakeAwayRequest $request): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Editor);

        return new JsonResponse(
            TakenView::of($this->takeAways->take($trial, $this->access->user(), Form::from($request->form), $request->connectionId)),
            201,
        );
    }

    #[Route('/api/taken/{id<\d{1,18}>}/file', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The file', content: new OA\MediaType('application/octet-stream'))]
    public function file(int $id): Response
    {
        $taken = $this->access->find(TakenAway::class, $id, 'file');

        return new Response($taken->bytes(), 200, [
            'Content-Type' => 'application/octet-stream',
            'Content-Disposition' => HeaderUtils::makeDisposition('attachment', TakenView::of($taken)->fileName),
        ]);
    }

    #[Route('/api/trials/{id<\d{1,18}>}/inside', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The database is at work', content: new Model(type: JobView::class))]
    public function inside(int $id, #[MapRequestPayload] InsideRequest $request): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Editor);

        return new JsonResponse($this->jobs->view($this->takeAways->inside($trial, $this->access->user(), $request)), 202);
    }
}
