<?php

declare(strict_types=1);

namespace App\Replay;

use App\Http\Problem;
use App\Study\Access;
use App\Study\Role;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Studies leave as one file, and are done again from it. */
#[OA\Tag('At work')]
final readonly class ReplayController
{
    public function __construct(private Access $access, private StudyFile $file, private Replay $replay)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/saved', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The study as one file', content: new OA\MediaType('application/json'))]
    public function save(int $id): Response
    {
        $study = $this->access->study($id, Role::Owner);

        return new Response(StudyFile::json($this->file->of($study)), 200, [
            'Content-Type' => 'application/json',
            'Content-Disposition' => HeaderUtils::makeDisposition(
                'attachment',
                preg_replace('/[^A-Za-z0-9_.-]+/', '_', $study->name()).'.study.json',
            ),
        ]);
    }

    #[Route('/api/studies/replay', methods: ['POST'])]
    #[OA\Response(
        response: 201,
        description: 'A study that waits for the tables of the file',
        content: new Model(type: ReplayBegunView::class),
    )]
    public function begin(#[MapRequestPayload] ReplayRequest $request): JsonResponse
    {
        return new JsonResponse(new ReplayBegunView($this->replay->begin($this->access->user(), $request->file)->id()), 201);
    }

    #[Route('/api/studies/{id<\d{1,18}>}/replay', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'How far it has come, and what differs', content: new Model(type: ReplayView::class))]
    public function view(int $id): JsonResponse
    {
        return new JsonResponse(
            $this->replay->view($this->access->study($id)) ?? throw new Problem(404, 'This study follows no file.'),
        );
    }

    #[Route('/api/studies/{id<\d{1,18}>}/replay', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'All is begun that can be: kinds, uses, target, split and variants, then trials and searches, then batches and lists',
        content: new Model(type: ReplayView::class),
    )]
    public function follow(int $id, #[MapRequestPayload] ReplayRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        if ('' !== $request->file) {
            $this->replay->follow($study, $this->access->user(), $request->file);
        }
        $this->replay->goOn($study, $this->access->user());

        return new JsonResponse($this->replay->view($study));
    }
}
