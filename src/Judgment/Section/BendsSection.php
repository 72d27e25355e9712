<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShownBend;
use Dokimos\Core\Learn\ShowsBends;
use Dokimos\Core\Task\Task;
use OpenApi\Attributes as OA;

/** Numbers that a regression follows along a curve. */
final readonly class BendsSection implements Section
{
    /**
     * @param list<ShownBend> $bends
     * @param bool            $isOdds whether they add to log-odds
     */
    public function __construct(
        #[OA\Property(enum: ['bends'])]
        public string $kind,
        public array $bends,
        public bool $isOdds,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $bends = $scoring->model instanceof ShowsBends ? $scoring->model->bends() : [];

        return [] === $bends ? null : new self('bends', $bends, Task::NUMBER !== $scoring->task);
    }
}
