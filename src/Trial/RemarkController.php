<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\Jobs;
use App\Job\JobView;
use App\Study\Access;
use App\Study\Role;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** What is written beside a trial, the Standings as a file, and the model that is handed on. */
#[OA\Tag('Trials')]
final readonly class RemarkController
{
    public function __construct(private Access $access, private EntityManagerInterface $entities)
    {
    }

    #[Route('/api/trials/{id<\d{1,18}>}/remark', methods: ['PUT'])]
    #[OA\Response(response: 200, description: 'The trial with its note', content: new Model(type: TrialView::class))]
    public function remark(int $id, #[MapRequestPayload] RemarkRequest $request): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Editor);
        $trial->remark(trim($request->note), $request->hidden);
        $this->entities->flush();

        return new JsonResponse(TrialView::of($trial));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/handed', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'It is being fitted once more on all records', content: new Model(type: JobView::class))]
    public function hand(int $id, Handed $handed, Jobs $jobs): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Editor);

        return new JsonResponse($jobs->view($handed->start($trial, $this->access->user())), 202);
    }

    #[Route('/api/studies/{id<\d{1,18}>}/standings/file', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The Standings with every figure',
        content: new OA\MediaType(mediaType: 'text/csv', schema: new OA\Schema(type: 'string')),
    )]
    public function file(int $id, StandingsFile $file): Response
    {
        $study = $this->access->study($id);

        return new Response(implode('', $file->lines($study)), 200, [
            'Content-Type' => 'text/csv; charset=utf-8',
            'Content-Disposition' => HeaderUtils::makeDisposition(
                'attachment',
                preg_replace('/[^A-Za-z0-9_.-]+/', '_', $study->name()).'_standings.csv',
            ),
        ]);
    }
}
