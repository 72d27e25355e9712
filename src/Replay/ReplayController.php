<?php

declare(strict_types=1);

namespace App\Replay;

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

    #[Route('/api/studies/{id<\d{1,18}>}/replay', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'Kinds, uses, target, split and variants as the file has them; its trials are begun',
        content: new Model(type: ReplayView::class),
    )]
    public function follow(int $id, #[MapRequestPayload] ReplayRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);

        return new JsonResponse(new ReplayView($this->replay->apply($study, $this->access->user(), $this->replay->read($request->file))));
    }
}
