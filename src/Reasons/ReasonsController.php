<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Score\Scoring;
use App\Study\Access;
use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\RecordReasons;
use Dokimos\Core\Learn\Account;
use Dokimos\Core\Learn\GivesAccount;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Prepared;
use Dokimos\Core\Table\Table;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Reasons for single records, of the study's own table or of a batch. */
#[OA\Tag('Reasons')]
final readonly class ReasonsController
{
    public function __construct(
        private Access $access,
        private Subjects $subjects,
        private Answering $answering,
        private Imagined $imagined,
    ) {
    }

    #[Route('/api/trials/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Reasons for one record of the study\'s table', content: new Model(type: ReasonsView::class))]
    public function record(int $id, int $number): JsonResponse
    {
        return new JsonResponse($this->reasons($this->subjects->ofTrial($this->access->find(Trial::class, $id, 'trial'), $number)));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Reasons for one record of a batch', content: new Model(type: ReasonsView::class))]
    public function scored(int $id, int $number): JsonResponse
    {
        return new JsonResponse($this->reasons($this->subjects->ofBatch($this->access->find(Scoring::class, $id, 'batch'), $number)));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}/local', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'A sum of few terms that answers as the model does near the record',
        content: new Model(type: LocalView::class),
    )]
    public function local(int $id, int $number): JsonResponse
    {
        return new JsonResponse($this->answering->local($this->subjects->ofTrial(
            $this->access->find(Trial::class, $id, 'trial'),
            $number,
        )));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}/imagine', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'The record as it came and with other cells', content: new Model(type: ImagineView::class))]
    public function imagine(int $id, int $number, #[MapRequestPayload] ImagineRequest $request): JsonResponse
    {
        $subject = $this->subjects->ofTrial($this->access->find(Trial::class, $id, 'trial'), $number);

        return new JsonResponse($this->imagined->of($subject, $request->changes));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}/imagine', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'The record as it came and with other cells', content: new Model(type: ImagineView::class))]
    public function imagineScored(int $id, int $number, #[MapRequestPayload] ImagineRequest $request): JsonResponse
    {
        $subject = $this->subjects->ofBatch($this->access->find(Scoring::class, $id, 'batch'), $number);

        return new JsonResponse($this->imagined->of($subject, $request->changes));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}/reach', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'Changes of the record that reach a wanted answer',
        content: new Model(type: ReachView::class),
    )]
    public function reach(int $id, int $number, #[MapRequestPayload] ReachRequest $request): JsonResponse
    {
        $subject = $this->subjects->ofTrial($this->access->find(Trial::class, $id, 'trial'), $number);

        return new JsonResponse($this->imagined->reach($subject, $request));
    }

    #[Route('/api/scorings/{id<\d{1,18}>}/reasons/{number<\d{1,18}>}/reach', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'Changes of the record that reach a wanted answer',
        content: new Model(type: ReachView::class),
    )]
    public function reachScored(int $id, int $number, #[MapRequestPayload] ReachRequest $request): JsonResponse
    {
        $subject = $this->subjects->ofBatch($this->access->find(Scoring::class, $id, 'batch'), $number);

        return new JsonResponse($this->imagined->reach($subject, $request));
    }

    private function reasons(Subject $subject): ReasonsView
    {
        $model = $subject->reasoning->model;
        $prepared = $model->preparation->apply($subject->record);
        $own = $this->ownAccount($model, $prepared);
        $line = $model->score($subject->record)[0];
        $answers = $this->answering->answer($subject);
        $shares = array_map(
            static fn (string $name, float $share): ClassShareView => new ClassShareView($name, $share),
            $model->classes(),
            [] === ($line['shares'] ?? []) ? array_fill(0, \count($model->classes()), 0.0) : $line['shares'],
        );

        return new ReasonsView(
            $subject->trial->id(),
            $subject->trial->number(),
            $model->event,
            $subject->number,
            $subject->rows,
            $subject->sealed,
            $line['chance'],
            $own?->low,
            $own?->high,
            $model->baseRate,
            $own?->base,
            $own?->logOdds,
            $line['why'],
            $line['reasons'],
            array_map(static fn (array $c) => new ContributionView($c['column'], $c['value'], $c['effect']), $own->columns ?? []),
            $subject->cells,
            $model->task,
            $model->target,
            Learners::title($subject->trial->learner()),
            $line['number'] ?? null,
            $line['class'] ?? null,
            null === $line['why'] ? $shares : [],
            [] === $prepared->out && null === $line['why'] ? RecordReasons::of($model->model, $prepared->table)->path(0) : null,
            null === $model->calibrated ? null : $model->uncalibrated()->score($subject->record, false)[0]['chance'],
            null === $line['why'] ? $this->answering->account($subject) : null,
            $this->answering->sure($subject, $answers),
            $this->answering->likeness($subject),
            $this->answering->neighbors($subject, $answers),
            self::made($model, $prepared->table, $subject->record),
        );
    }

    /** @return list<SeenCell> in the order in which the model reads them */
    private static function made(ScoringModel $model, Table $prepared, Table $record): array
    {
        $made = [];
        foreach ($model->model->columns() as $name) {
            $value = $prepared->has($name) ? $prepared->column($name)->text(0) : null;
            if (!$record->has($name) || $record->column($name)->text(0) !== $value) {
                $made[] = new SeenCell($name, $value, array_values(array_unique($model->preparation->asks([$name]))));
            }
        }

        return $made;
    }

    /** A regression's own account, in log-odds or in its number's unit. */
    private function ownAccount(ScoringModel $model, Prepared $prepared): ?Account
    {
        return [] === $prepared->out && $model->model instanceof GivesAccount ? $model->model->account($prepared->table, 0) : null;
    }
}
