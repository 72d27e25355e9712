<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Decision\Scoring;
use App\Http\Problem;
use App\Judgment\Judgments;
use App\Question\OpenCells;
use App\Question\Seal;
use App\Study\Access;
use App\Table\DataTable;
use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\RecordReasons;
use Dokimos\Core\Learn\Account;
use Dokimos\Core\Learn\GivesAccount;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Prepared;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

/** Reasons for single records, of the study's own table or of a batch. */
#[OA\Tag('Reasons')]
final readonly class ReasonsController
{
    public function __construct(private Access $access, private Judgments $judgments, private OpenCells $reader)
    {
    }

    #[Route('/api/trials/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Reasons for one record of the study\'s table', content: new Model(type: ReasonsView::class))]
    public function record(int $id, int $number): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial');
        $table = $trial->question()->table() ?? throw Problem::notFound('table');
        $model = $this->judgments->model($trial);

        return new JsonResponse($this->reasons(
            $trial,
            $model,
            $table,
            $model->byName(),
            $number,
            Seal::of($trial->question())->holds($number - 1),
        ));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Reasons for one record of a batch', content: new Model(type: ReasonsView::class))]
    public function scored(int $id, int $number): JsonResponse
    {
        $scoring = $this->access->find(Scoring::class, $id, 'batch');

        return new JsonResponse($this->reasons(
            $scoring->trial(),
            $scoring->isByHanded() ? $this->judgments->inUse($scoring->trial()) : $this->judgments->model($scoring->trial()),
            $scoring->table(),
            $scoring->matching(),
            $number,
            false,
        ));
    }

    /** @param array<string, string> $match */
    private function reasons(Trial $trial, ScoringModel $model, DataTable $table, array $match, int $number, bool $sealed): ReasonsView
    {
        if ($number < 1 || $number > $table->rows()) {
            throw new Problem(404, \sprintf('%s has records 1 to %s.', $table->name(), number_format($table->rows())));
        }
        $one = $this->reader->record($table, $number - 1);
        $cells = [];
        foreach ($one->names() as $name) {
            $cells[$name] = $one->column($name)->text(0);
        }
        $selected = $model->select($one, $match);
        $prepared = $model->preparation->apply($selected);
        $account = $this->account($model, $prepared);
        $line = $model->score($selected)[0];
        $shares = array_map(
            static fn (string $name, float $share): ClassShareView => new ClassShareView($name, $share),
            $model->classes(),
            [] === ($line['shares'] ?? []) ? array_fill(0, \count($model->classes()), 0.0) : $line['shares'],
        );

        return new ReasonsView(
            $trial->id(),
            $trial->number(),
            $model->event,
            $number,
            $table->rows(),
            $sealed,
            $line['chance'],
            $account?->low,
            $account?->high,
            $model->baseRate,
            $account?->base,
            $account?->logOdds,
            $line['why'],
            $line['reasons'],
            array_map(static fn (array $c) => new ContributionView($c['column'], $c['value'], $c['effect']), $account->columns ?? []),
            $cells,
            $model->task,
            $model->target,
            Learners::title($trial->learner()),
            $line['number'] ?? null,
            $line['class'] ?? null,
            null === $line['why'] ? $shares : [],
            [] === $prepared->out && null === $line['why'] ? RecordReasons::of($model->model, $prepared->table)->path(0) : null,
            null === $model->calibrated ? null : $model->uncalibrated()->score($selected, false)[0]['chance'],
        );
    }

    private function account(ScoringModel $model, Prepared $prepared): ?Account
    {
        return [] === $prepared->out && $model->model instanceof GivesAccount ? $model->model->account($prepared->table, 0) : null;
    }
}
