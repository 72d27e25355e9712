<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Task\Task;
use OpenApi\Attributes as OA;

/** An event: what a cut-off catches, how chances rank, and every figure. */
final readonly class EventSection implements Section
{
    /**
     * @param list<FigureLine>       $figures
     * @param float                  $baseRate      share of the answered rows with the event
     * @param list<CutoffView>       $cutoffs       lowest first
     * @param list<CutoffView>       $sealedCutoffs the same of the sealed rows, once opened
     * @param list<list<float|null>> $roc           share called in vain, share caught, cut-off; highest cut-off first
     * @param list<CalibrationView>  $calibration
     * @param list<TenthView>        $tenths
     */
    public function __construct(
        #[OA\Property(enum: ['event'])]
        public string $kind,
        public int $rows,
        public int $unanswered,
        public int $events,
        public float $baseRate,
        public DoingNothing $nothing,
        public array $figures,
        public array $cutoffs,
        public array $sealedCutoffs,
        #[OA\Property(type: 'array', items: new OA\Items(type: 'array', items: new OA\Items(type: 'number', nullable: true)))]
        public array $roc,
        public array $calibration,
        public array $tenths,
        public ?HistogramView $histogram,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $kept = $trial->figures();
        if (Task::TWO !== $scoring->task || !isset($kept['cutoffs'])) {
            return null;
        }
        /** @var array{rows: int, unanswered?: int, events?: int, baseRate?: float|int, baseline?: array{accuracy?: float|int, recall?: float|int, precision?: float|int}, roc?: list<list<?float>>, histogram?: array{events: list<int>, others: list<int>}} $f */
        $f = $kept;

        return new self(
            'event',
            $f['rows'],
            $f['unanswered'] ?? 0,
            $f['events'] ?? 0,
            (float) ($f['baseRate'] ?? 0.0),
            new DoingNothing(
                (float) ($f['baseline']['accuracy'] ?? 0.0),
                (float) ($f['baseline']['recall'] ?? 0.0),
                (float) ($f['baseline']['precision'] ?? 0.0),
            ),
            FigureLine::all($trial, Task::TWO),
            CutoffView::all($kept['cutoffs']),
            CutoffView::all($trial->sealedFigures()['cutoffs'] ?? []),
            $f['roc'] ?? [],
            CalibrationView::all($kept['calibration'] ?? []),
            TenthView::all($kept['tenths'] ?? []),
            isset($f['histogram']) ? new HistogramView($f['histogram']['events'], $f['histogram']['others']) : null,
        );
    }
}
