<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Validate\ColumnChoice;

/** A line of the Standings. */
final readonly class TrialView
{
    /**
     * @param list<string>     $settings   those that are not as usual, in words
     * @param list<string>     $stale      why it no longer stands on what is there now
     * @param string           $task       what it predicts
     * @param FigureView       $measure    the figure that it is ranked by
     * @param ?float           $value      mean over the folds, with its interval
     * @param ?float           $training   the same on its own training rows
     * @param list<float|null> $each       one per fold and repeat; null where it is not defined
     * @param bool             $pooled     whether the folds of a repeat are judged together, since some hold too few events
     * @param ?float           $baseline   what doing nothing clever scores
     * @param string           $size       how much there is to read
     * @param ?string          $weight     the column by which records counted
     * @param int              $weightless rows that had no weight above 0: they taught nothing and count nothing
     * @param ?float           $weightSum  what the open rows stand for together
     * @param ?ColumnChoice    $choice     which prepared columns may serve; null = all
     * @param ?Chosen          $chosen     where it was chosen among many: its figure is corrected for that
     */
    public function __construct(
        public int $id,
        public int $number,
        public string $learner,
        public string $title,
        public array $settings,
        public ?string $variantLetter,
        public ?int $variantId,
        public string $state,
        public ?string $failure,
        public array $stale,
        public string $size,
        public int $columns,
        public int $rows,
        public int $unanswered,
        public string $task,
        public FigureView $measure,
        public ?float $value,
        public ?float $low,
        public ?float $high,
        public ?float $training,
        public array $each,
        public bool $pooled,
        public ?float $baseline,
        public ?string $weight,
        public int $weightless,
        public ?float $weightSum,
        public ?int $part,
        public ?ColumnChoice $choice,
        public string $calibration,
        public ?Chosen $chosen,
        public bool $sealOpened,
        public string $note,
        public bool $hidden,
        public ?int $handedRows,
        public string $createdAt,
    ) {
    }

    public static function of(Trial $trial): self
    {
        $line = $trial->line();

        return new self(
            $trial->id(),
            $trial->number(),
            $trial->learner(),
            Learners::title($trial->learner()),
            [...Learners::unusual($trial->learner(), $trial->settings()), ...array_filter([$trial->newer()?->said()])],
            $trial->variant()?->letter(),
            $trial->variant()?->id(),
            $trial->state(),
            $trial->failure(),
            $trial->isDone() ? Ancestry::stale($trial) : [],
            $line->size,
            $line->columns,
            $line->rows,
            $line->unanswered,
            $line->task,
            FigureView::of($trial->question()->figureOf($line->task)),
            $line->value,
            $line->low,
            $line->high,
            $line->training,
            $line->each,
            $line->pooled,
            $line->baseline,
            $line->weight,
            $line->weightless,
            $line->weightSum,
            $trial->part(),
            $trial->choice(),
            $trial->calibration(),
            $trial->chosen(),
            null !== $trial->opening(),
            $trial->note(),
            $trial->isHidden(),
            $trial->handedRows(),
            $trial->createdAt()->format(\DATE_ATOM),
        );
    }
}
