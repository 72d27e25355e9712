<?php

declare(strict_types=1);

namespace App\Score;

use App\Http\Problem;
use App\Job\Jobs;
use App\Job\JobView;
use App\Study\Access;
use App\Study\Role;
use App\Table\DataTable;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\StreamedResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\HttpKernel\Attribute\MapQueryString;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Scoring new records. */
#[OA\Tag('Decisions')]
final readonly class ScoreController
{
    public function __construct(
        private Access $access,
        private Scorings $scorings,
        private ScoredPages $pages,
        private ScoredFile $file,
        private KeptScored $kept,
        private Beside $beside,
        private Jobs $jobs,
        private EntityManagerInterface $entities,
    ) {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/match', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'Columns matched, problems said', content: new Model(type: MatchView::class))]
    public function match(int $id, #[MapRequestPayload] MatchRequest $request): JsonResponse
    {
        $study = $this->access->study($id);
        $trial = $this->access->find(Trial::class, $request->trialId, 'trial');
        $table = $this->access->find(DataTable::class, $request->tableId, 'table');
        if ($trial->study() !== $study || $table->study() !== $study || !$table->isReady()) {
            throw Problem::notFound('trial or table');
        }

        return new JsonResponse($this->scorings->match($trial, $table, $request->matching));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/scorings', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'Scoring has begun', content: new Model(type: JobView::class))]
    public function start(int $id, #[MapRequestPayload] MatchRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $trial = $this->access->find(Trial::class, $request->trialId, 'trial');
        $table = $this->access->find(DataTable::class, $request->tableId, 'table');

        return new JsonResponse(
            $this->jobs->view($this->scorings->start(
                $study,
                $this->access->user(),
                $trial,
                $table,
                $request->matching,
                $request->cutoff,
                $request->answers,
            )),
            202,
        );
    }

    #[Route('/api/studies/{id<\d{1,18}>}/scorings', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The batches of a study, newest first',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: ScoringView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        $study = $this->access->study($id);

        return new JsonResponse(array_map(
            $this->scorings->view(...),
            $this->entities->getRepository(Scoring::class)->findBy(['study' => $study], ['id' => 'DESC'], 20),
        ));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A batch', content: new Model(type: ScoringView::class))]
    public function one(int $id): JsonResponse
    {
        return new JsonResponse($this->scorings->view($this->access->find(Scoring::class, $id, 'batch'), true));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/rows', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A page of scored records', content: new Model(type: ScoredRowsView::class))]
    public function rows(int $id, #[MapQueryString] ScoredQuery $query = new ScoredQuery()): JsonResponse
    {
        return new JsonResponse($this->pages->of($this->access->find(Scoring::class, $id, 'batch'), $query));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/beside', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Two batches over the same records', content: new Model(type: BesideView::class))]
    public function beside(int $id, #[MapQueryParameter] int $other = 0): JsonResponse
    {
        $scoring = $this->access->find(Scoring::class, $id, 'batch');
        $second = $this->access->find(Scoring::class, $other, 'batch');
        if ($second->study() !== $scoring->study()) {
            throw Problem::notFound('batch');
        }

        return new JsonResponse($this->beside->of($scoring, $second));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/table', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The scored records become a table of the study', content: new Model(type: JobView::class))]
    public function keep(int $id, #[MapRequestPayload] KeepRequest $request): JsonResponse
    {
        $scoring = $this->access->find(Scoring::class, $id, 'batch', Role::Editor);

        return new JsonResponse($this->jobs->view($this->kept->start($scoring, $this->access->user(), $request)), 202);
    }

    /** @param list<string> $carry */
    #[Route('/api/scorings/{id<\d{1,18}>}/file', methods: ['GET'])]
    #[OA\Parameter(name: 'carry[]', in: 'query', schema: new OA\Schema(type: 'array', items: new OA\Items(type: 'string')))]
    #[OA\Response(
        response: 200,
        description: 'The scored list',
        content: new OA\MediaType(mediaType: 'text/csv', schema: new OA\Schema(type: 'string')),
    )]
    public function file(
        int $id,
        #[MapQueryParameter] array $carry = [],
        #[MapQueryParameter] bool $full = false,
        #[MapQueryParameter] bool $sure = false,
    ): StreamedResponse {
        $scoring = $this->access->find(Scoring::class, $id, 'batch');
        if ('done' !== $scoring->state()) {
            throw new Problem(409, 'The scoring is not finished.');
        }
        if ($sure) {
            // Before the answer begins: what cannot be said is refused with a sentence.
            $this->file->sure($scoring->trial());
        }
        $this->file->noteDownload($scoring, $this->access->user());
        $response = new StreamedResponse(function () use ($scoring, $carry, $full, $sure): void {
            foreach ($this->file->csv($scoring, $carry, $full, $sure) as $line) {
                echo $line;
            }
        });
        $response->headers->set('Content-Type', 'text/csv; charset=utf-8');
        $response->headers->set('Content-Disposition', HeaderUtils::makeDisposition('attachment', $this->file->name($scoring)));

        return $response;
    }
}
