<?php

declare(strict_types=1);

namespace App\Register;

use App\Http\Problem;
use App\Http\Version;
use App\Job\Jobs;
use App\Job\JobView;
use App\Source\Portion;
use App\Source\ReadingView;
use App\Source\Upload;
use App\Source\UploadRequest;
use App\Source\Uploads;
use App\Source\UploadView;
use App\Study\Access;
use App\Study\Role;
use App\Table\ColumnView;
use App\Table\DataTable;
use App\Table\Editions;
use App\Table\ImportRequest;
use App\Table\TableColumn;
use App\Table\Tables;
use App\Table\TableView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\Dialect;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\HttpKernel\Attribute\MapQueryString;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Uploads, tables, columns and rows. */
#[OA\Tag('Table')]
final readonly class TableController
{
    public function __construct(
        private Access $access,
        private Uploads $uploads,
        private Tables $tables,
        private Records $records,
        private Jobs $jobs,
        private EntityManagerInterface $entities,
    ) {
    }

    #[Route('/api/uploads', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'The upload may begin', content: new Model(type: UploadView::class))]
    public function begin(#[MapRequestPayload] UploadRequest $request): JsonResponse
    {
        return new JsonResponse(UploadView::of($this->uploads->begin($this->access->user(), $request->fileName, $request->size)), 201);
    }

    #[Route('/api/uploads/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'How far it has come', content: new Model(type: UploadView::class))]
    public function upload(int $id): JsonResponse
    {
        return new JsonResponse(UploadView::of($this->uploads->of($this->access->user(), $id)));
    }

    #[Route('/api/uploads/{id<\d{1,18}>}/pieces', methods: ['PUT'])]
    #[OA\RequestBody(content: new OA\MediaType(
        mediaType: 'application/octet-stream',
        schema: new OA\Schema(type: 'string', format: 'binary'),
    ))]
    #[OA\Parameter(name: 'Piece-Checksum', in: 'header', description: 'SHA-256 of the piece', schema: new OA\Schema(type: 'string'))]
    #[OA\Response(response: 200, description: 'The piece is kept', content: new Model(type: UploadView::class))]
    public function piece(int $id, Request $request, #[MapQueryParameter] int $offset): JsonResponse
    {
        $upload = $this->uploads->of($this->access->user(), $id);
        if ((int) $request->headers->get('Content-Length', '0') > Upload::PIECE) {
            throw new Problem(413, 'A piece has at most 8 MiB.');
        }
        $this->uploads->receive($upload, $offset, $request->getContent(), (string) $request->headers->get('Piece-Checksum'));

        return new JsonResponse(UploadView::of($upload));
    }

    #[Route('/api/uploads/{id<\d{1,18}>}/reading', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'How it would be read', content: new Model(type: ReadingView::class))]
    public function reading(
        int $id,
        #[MapQueryParameter] ?string $encoding = null,
        #[MapQueryParameter] ?string $delimiter = null,
        #[MapQueryParameter] ?string $quote = null,
        #[MapQueryParameter] ?string $decimal = null,
        #[MapQueryParameter] ?string $thousands = null,
        #[MapQueryParameter] ?bool $header = null,
        #[MapQueryParameter] ?int $skip = null,
        #[MapQueryParameter] ?string $comment = null,
        #[MapQueryParameter] ?string $missing = null,
        #[MapQueryParameter] ?string $dates = null,
        #[MapQueryParameter] ?string $part = null,
        #[MapQueryParameter(
            options: ['min_range' => 1, 'max_range' => Portion::MOST],
            validationFailedStatusCode: 422,
        )] int $most = Portion::MOST,
    ): JsonResponse {
        $upload = $this->uploads->of($this->access->user(), $id);
        $portion = new Portion($part, $most);
        $given = array_filter(
            [
                'encoding' => $encoding,
                'delimiter' => $delimiter,
                'quote' => $quote,
                'decimal' => $decimal,
                'thousands' => $thousands,
                'header' => $header,
                'skip' => $skip,
                'comment' => $comment,
                'dates' => $dates,
                'missing' => null === $missing ? null : explode(',', $missing),
            ],
            static fn (mixed $v) => null !== $v,
        );
        $wanted = [] === $given ? null : self::dialect($given + $this->uploads->detected($upload, $skip ?? 0, $portion)->toArray());

        return new JsonResponse($this->uploads->reading($upload, $wanted, $portion));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/tables', methods: ['POST'])]
    #[OA\Response(response: 202, description: 'The import has begun', content: new Model(type: JobView::class))]
    public function import(int $id, #[MapRequestPayload] ImportRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $upload = $this->uploads->of($this->access->user(), $request->uploadId);
        $job = $this->tables->import(
            $study,
            $this->access->user(),
            $upload,
            $request->name,
            null === $request->dialect ? null : self::dialect($request->dialect),
            new Portion($request->part, $request->most),
        );

        return new JsonResponse($this->jobs->view($job), 202);
    }

    #[Route('/api/studies/{id<\d{1,18}>}/tables', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The tables of a study',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: TableView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse(array_map(
            static fn (DataTable $t) => TableView::of($t, false),
            $this->tables->of($this->access->study($id)),
        ));
    }

    #[Route('/api/tables/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The Register', content: new Model(type: TableView::class))]
    public function register(int $id, Editions $editions): JsonResponse
    {
        $table = $this->access->find(DataTable::class, $id, 'table');

        return new JsonResponse(TableView::of($table, true, $table->isReady() ? $editions->differences($table) : null));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/rows', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A page of records', content: new Model(type: RowsView::class))]
    public function rows(int $id, #[MapQueryString] RowQuery $query = new RowQuery()): JsonResponse
    {
        return new JsonResponse($this->records->rows(Tables::ready($this->access->find(DataTable::class, $id, 'table')), $query));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/file', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The table, or the records that answer a query, as a file: csv, jsonl with one object a line, or an xlsx workbook',
        content: new OA\MediaType(mediaType: 'text/csv', schema: new OA\Schema(type: 'string')),
    )]
    public function file(
        int $id,
        Exports $exports,
        Selections $selections,
        #[MapQueryParameter] string $format = 'csv',
        #[MapQueryString] RowQuery $query = new RowQuery(),
    ): Response {
        $table = $this->access->find(DataTable::class, $id, 'table');
        if (!\in_array($format, Exports::FORMATS, true)) {
            throw Problem::invalid(\sprintf('Choose one of %s.', implode(', ', Exports::FORMATS)), 'format');
        }
        Tables::ready($table);
        $found = $query->narrows() ? $selections->find($table, $query) : null;
        $workbook = 'xlsx' === $format ? $exports->workbook($table, $found) : null;
        $response = null !== $workbook ? new Response($workbook) : new StreamedResponse(static function () use ($exports, $table, $format, $found): void {
            foreach ($exports->lines($table, $format, $found) as $line) {
                echo $line;
            }
        });
        $response->headers->set(
            'Content-Type',
            [
                'csv' => 'text/csv; charset=utf-8',
                'jsonl' => 'application/jsonl; charset=utf-8',
                'xlsx' => 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
            ][$format],
        );
        $response->headers->set(
            'Content-Disposition',
            HeaderUtils::makeDisposition('attachment', preg_replace('/[^A-Za-z0-9_.-]+/', '_', $table->name()).'.'.$format),
        );

        return $response;
    }

    #[Route('/api/tables/{id<\d{1,18}>}/source', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The file as it was imported, sealed outcomes included: for the owner of the study, and written in the logbook',
        content: new OA\MediaType(mediaType: 'text/plain', schema: new OA\Schema(type: 'string')),
    )]
    public function source(int $id, Exports $exports): Response
    {
        $table = Tables::ready($this->access->find(DataTable::class, $id, 'table', Role::Owner));
        $blocks = $exports->source($table, $this->access->user());
        $response = new StreamedResponse(static function () use ($blocks): void {
            foreach ($blocks as $block) {
                echo $block;
            }
        });
        $response->headers->set('Content-Type', 'text/plain; charset=utf-8');
        $response->headers->set(
            'Content-Disposition',
            HeaderUtils::makeDisposition('attachment', preg_replace('/[^A-Za-z0-9_.-]+/', '_', $table->name()).'-source.csv'),
        );

        return $response;
    }

    #[Route('/api/columns/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'One column in full', content: new Model(type: ColumnDetailView::class))]
    public function column(
        int $id,
        ColumnDetail $detail,
        #[MapQueryParameter(options: ['min_range' => 2, 'max_range' => 100], validationFailedStatusCode: 422)] ?int $bins = null,
        #[MapQueryParameter] bool $log = false,
    ): JsonResponse {
        return new JsonResponse($detail->of($this->readyColumn($id), $bins, $log));
    }

    #[Route('/api/columns/{id<\d{1,18}>}/more', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Frequent values, extreme records and words of a column',
        content: new Model(type: ColumnMoreView::class),
    )]
    public function more(int $id, ColumnMore $more): JsonResponse
    {
        return new JsonResponse($more->of($this->readyColumn($id)));
    }

    #[Route('/api/columns/{id<\d{1,18}>}', methods: ['PATCH'])]
    #[OA\Parameter(name: 'If-Match', in: 'header', required: true, schema: new OA\Schema(type: 'string'))]
    #[OA\Response(response: 200, description: 'The column as it is now', content: new Model(type: ColumnView::class))]
    public function change(int $id, Request $http, #[MapRequestPayload] ColumnRequest $request, Columns $columns): JsonResponse
    {
        $column = $this->readyColumn($id, Role::Editor);
        Version::check($http, $column->version(), ColumnView::of($column));
        $columns->change($column, $this->access->user(), $request->kind, $request->use, $request->known);
        $this->entities->refresh($column);

        return new JsonResponse(ColumnView::of($column));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/columns', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'What the change does to each column', content: new Model(type: ColumnsView::class))]
    public function changeMany(int $id, #[MapRequestPayload] ColumnsRequest $request, Columns $columns): JsonResponse
    {
        $table = Tables::ready($this->access->find(DataTable::class, $id, 'table', Role::Editor));
        $wanted = [];
        foreach ($table->columns() as $column) {
            $shown = $request->versions[$column->id()] ?? null;
            if (null !== $shown) {
                if ($shown !== $column->version()) {
                    throw new Problem(
                        412,
                        \sprintf('Somebody has changed %s in the meantime. Nothing was saved; look again.', $column->name()),
                    );
                }
                $wanted[] = $column;
            }
        }
        if (\count($wanted) !== \count($request->versions)) {
            throw Problem::invalid('A column among them is not of this table.', 'versions');
        }

        return new JsonResponse($columns->changeMany($table, $wanted, $this->access->user(), $request));
    }

    private function readyColumn(int $id, Role $least = Role::Reader): TableColumn
    {
        $column = $this->access->find(TableColumn::class, $id, 'column', $least);
        Tables::ready($column->table());

        return $column;
    }

    /** @param array<string, mixed> $data */
    private static function dialect(array $data): Dialect
    {
        try {
            return Dialect::fromArray($data);
        } catch (\InvalidArgumentException $e) {
            throw Problem::invalid($e->getMessage(), 'dialect');
        }
    }
}
