<?php

declare(strict_types=1);

namespace App\Decision;

use App\Http\Problem;
use App\Http\Version;
use App\Score\Scoring;
use App\Study\Access;
use App\Study\Role;
use App\Table\DataTable;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Lists of actions over scored tables. */
#[OA\Tag('Decisions')]
final readonly class DecisionController
{
    private const TYPES = [
        'csv' => 'text/csv; charset=utf-8',
        'jsonl' => 'application/jsonl',
        'xlsx' => 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    ];

    public function __construct(
        private Access $access,
        private Decisions $decisions,
        private Weighing $weighing,
        private ListPages $pages,
        private ListFiles $files,
        private Measuring $measuring,
        private Sheet $sheet,
        private ListExports $exports,
    ) {
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/decisions', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Decisions over a scored table',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: DecisionLine::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse($this->decisions->of($this->access->find(Scoring::class, $id, 'batch')));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/decisions', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'The decision', content: new Model(type: DecisionView::class))]
    public function make(int $id, #[MapRequestPayload] DecisionRequest $request): JsonResponse
    {
        $scoring = $this->access->find(Scoring::class, $id, 'batch', Role::Editor);

        return new JsonResponse($this->weighing->of($this->decisions->make($scoring, $this->access->user(), $request)), 201);
    }

    #[Route('/api/decisions/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A decision with what it costs and brings', content: new Model(type: DecisionView::class))]
    public function one(int $id): JsonResponse
    {
        return new JsonResponse($this->weighing->of($this->access->find(Decision::class, $id, 'decision')));
    }

    #[Route('/api/decisions/{id<\d{1,18}>}', methods: ['PUT'])]
    #[OA\Parameter(name: 'If-Match', in: 'header', required: true, schema: new OA\Schema(type: 'string'))]
    #[OA\Response(response: 200, description: 'The decision as it is now', content: new Model(type: DecisionView::class))]
    public function change(int $id, Request $http, #[MapRequestPayload] DecisionRequest $request): JsonResponse
    {
        $decision = $this->access->find(Decision::class, $id, 'decision', Role::Editor);
        Version::check($http, $decision->version(), new DecisionRequest($decision->name(), $decision->terms()));
        $this->decisions->change($decision, $this->access->user(), $request);

        return new JsonResponse($this->weighing->of($decision));
    }

    #[Route('/api/decisions/{id<\d{1,18}>}', methods: ['DELETE'])]
    #[OA\Response(response: 204, description: 'Removed; the scored table is as it was')]
    public function remove(int $id): Response
    {
        $this->decisions->remove($this->access->find(Decision::class, $id, 'decision', Role::Editor), $this->access->user());

        return new Response(null, 204);
    }

    /** @param list<string> $carry */
    #[Route('/api/decisions/{id<\d{1,18}>}/rows', methods: ['GET'])]
    #[OA\Parameter(name: 'carry[]', in: 'query', schema: new OA\Schema(type: 'array', items: new OA\Items(type: 'string')))]
    #[OA\Response(response: 200, description: 'A page of the list', content: new Model(type: DecisionRowsView::class))]
    public function rows(
        int $id,
        #[MapQueryParameter] string $which = 'acted',
        #[MapQueryParameter] int $offset = 0,
        #[MapQueryParameter] int $limit = 100,
        #[MapQueryParameter] array $carry = [],
    ): JsonResponse {
        if (!\in_array($which, ListPages::WHICH, true)) {
            throw Problem::invalid('Choose those acted on, those left, or all.', 'which');
        }

        return new JsonResponse($this->pages->of(
            $this->access->find(Decision::class, $id, 'decision'),
            $which,
            $offset,
            $limit,
            array_values(array_filter($carry, is_string(...))),
        ));
    }

    #[Route('/api/decisions/{id<\d{1,18}>}/file', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'The list as a file',
        content: new OA\MediaType(mediaType: 'text/csv', schema: new OA\Schema(type: 'string')),
    )]
    public function file(int $id, #[MapRequestPayload] TakeRequest $request): Response
    {
        $decision = $this->access->find(Decision::class, $id, 'decision', Role::Editor);
        // Before the answer begins: what cannot be written is refused with a sentence.
        $this->files->columns($decision, $request->columns);
        $response = 'xlsx' === $request->format
            ? new Response($this->files->workbook($decision, $request))
            : new StreamedResponse(function () use ($decision, $request): void {
                foreach ($this->files->lines($decision, $request) as $line) {
                    echo $line;
                }
            });
        $this->files->note($decision, $this->access->user(), $request->format);
        $name = $this->files->name($decision, $request->format);
        $response->headers->set('Content-Type', self::TYPES[$request->format]);
        $response->headers->set('Content-Disposition', HeaderUtils::makeDisposition('attachment', $name));

        return $response;
    }

    #[Route('/api/decisions/{id<\d{1,18}>}/export/plan', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'What would be written to a database', content: new Model(type: ExportView::class))]
    public function plan(int $id, #[MapRequestPayload] ExportRequest $request): JsonResponse
    {
        $decision = $this->access->find(Decision::class, $id, 'decision', Role::Editor);

        return new JsonResponse($this->exports->plan($decision, $this->access->user(), $request));
    }

    #[Route('/api/decisions/{id<\d{1,18}>}/export', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'What was written and read back; without a connection the bytes of a SQLite file',
        content: new Model(type: ExportView::class),
    )]
    public function export(int $id, #[MapRequestPayload] ExportRequest $request): Response
    {
        $decision = $this->access->find(Decision::class, $id, 'decision', Role::Editor);
        if (null === $request->connectionId) {
            return new Response($this->exports->file($decision, $this->access->user(), $request), 200, [
                'Content-Type' => 'application/vnd.sqlite3',
                'Content-Disposition' => HeaderUtils::makeDisposition('attachment', 'list.sqlite'),
            ]);
        }

        return new JsonResponse($this->exports->write($decision, $this->access->user(), $request));
    }

    /** @param list<string> $carry */
    #[Route('/api/decisions/{id<\d{1,18}>}/sheet', methods: ['GET'])]
    #[OA\Parameter(name: 'carry[]', in: 'query', schema: new OA\Schema(type: 'array', items: new OA\Items(type: 'string')))]
    #[OA\Response(
        response: 200,
        description: 'A sheet for those who act, for paper and phone',
        content: new OA\MediaType(mediaType: 'text/html', schema: new OA\Schema(type: 'string')),
    )]
    public function sheet(int $id, #[MapQueryParameter] array $carry = []): Response
    {
        $decision = $this->access->find(Decision::class, $id, 'decision', Role::Editor);
        $page = $this->sheet->of($decision, array_values(array_filter($carry, is_string(...))));

        return new Response($page, 200, ['Content-Type' => 'text/html; charset=utf-8']);
    }

    #[Route('/api/decisions/{id<\d{1,18}>}/measure', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'The decision with what was measured', content: new Model(type: DecisionView::class))]
    public function measure(int $id, #[MapRequestPayload] MeasureRequest $request): JsonResponse
    {
        $decision = $this->access->find(Decision::class, $id, 'decision', Role::Editor);
        $table = $this->access->find(DataTable::class, $request->tableId, 'table');
        if ($table->study() !== $decision->study() || !$table->isReady()) {
            throw Problem::notFound('table');
        }
        $this->measuring->measure($decision, $this->access->user(), $table, $request);

        return new JsonResponse($this->weighing->of($decision));
    }
}
