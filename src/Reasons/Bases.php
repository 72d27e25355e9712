<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Judgment\Judgments;
use App\Question\Ground;
use App\Trial\Trial;
use Dokimos\Core\Decide\ExactAccount;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\Basis;
use Dokimos\Core\Explain\Likeness;
use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Learn\AddsTerms;
use Dokimos\Core\Learn\Tree\AddsTrees;
use Dokimos\Core\Random;
use Dokimos\Core\Stamp;
use Dokimos\Core\Task\Answers;
use Psr\Cache\CacheItemPoolInterface;

/** Draws what a trial's answers are explained against, from open rows alone, and keeps it. */
final readonly class Bases
{
    private const BACKGROUND = 200;
    private const SEEN = 1000;
    private const KEPT = 86400 * 90;
    /** Raised when what is kept changes. */
    private const FORM = 3;
    private const SEED = 2026;

    public function __construct(private Ground $ground, private Judgments $judgments, private CacheItemPoolInterface $pool)
    {
    }

    /** @param bool $handed whether it is the model fitted once more on all records */
    public function reasoning(Trial $trial, ?ScoringModel $model = null, bool $handed = false): Reasoning
    {
        $model ??= $this->judgments->model($trial);
        $basis = $this->of($trial, $model);

        return new Reasoning($model, $basis, fn (?int $class): ?ExactAccount => $this->exact($trial, $model, $basis, $class, $handed));
    }

    /** Which leaves the background reaches is laid down once a model, and kept. */
    private function exact(Trial $trial, ScoringModel $model, Basis $basis, ?int $class, bool $handed): ?ExactAccount
    {
        if ($model->model instanceof AddsTerms) {
            // Terms are laid down in no time: there is nothing to keep.
            return ExactAccount::of($model, $basis->background, $class);
        }
        if (!$model->model instanceof AddsTrees) {
            return null;
        }
        $mark = [self::FORM, self::mark($trial), array_keys($model->asked), $class, $handed ? $trial->handedRows() : null];
        $item = $this->pool->getItem('exact.'.Stamp::of($mark));
        $kept = $item->isHit() ? $item->get() : null;
        if (\is_array($kept) && \array_key_exists(0, $kept) && (null === $kept[0] || $kept[0] instanceof ExactAccount)) {
            return $kept[0];
        }
        $exact = ExactAccount::of($model, $basis->background, $class);
        $this->pool->save($item->set([$exact])->expiresAfter(self::KEPT));

        return $exact;
    }

    /** @return list<mixed> what explanations of a trial depend on */
    public static function mark(Trial $trial): array
    {
        return [
            $trial->id(),
            $trial->ancestry(),
            $trial->question()->hash(),
            $trial->learner(),
            $trial->settings(),
            $trial->calibration(),
            $trial->choice()?->toArray(),
            $trial->part(),
            $trial->line()->toArray(),
        ];
    }

    public function of(Trial $trial, ScoringModel $model): Basis
    {
        $this->judgments->onItsRows($trial);
        $item = $this->pool->getItem('basis.'.Stamp::of([self::FORM, self::mark($trial), array_keys($model->asked)]));
        $kept = $item->isHit() ? $item->get() : null;
        if ($kept instanceof Basis) {
            return $kept;
        }
        [$table, $outcome, $rows] = $this->ground->open($trial->study(), array_map(strval(...), array_keys($model->asked)));
        $all = $model->select($table, $model->byName());
        $order = Random::stream(self::SEED, 'basis')->shuffleArray(array_keys($outcome));
        // In the order of the outcome every so manieth: outcomes stand in it in proportion.
        $sorted = $order;
        usort($sorted, static fn (int $a, int $b): int => $outcome[$a] <=> $outcome[$b]);
        $step = max(1.0, \count($sorted) / self::BACKGROUND);
        $background = [];
        for ($k = $step / 2; $k < \count($sorted); $k += $step) {
            $background[] = $sorted[(int) $k];
        }
        $seen = \array_slice($order, 0, self::SEEN);
        sort($seen);
        // Whoever asks for fewer takes the first: they are a mixture, too.
        $background = Random::stream(self::SEED, 'background')->shuffleArray($background);
        $records = $all->take($seen);
        $answers = $trial->answers();
        $width = $answers->width;
        $basis = new Basis(
            $all->take(array_values($background)),
            $records,
            array_map(static fn (int $i): int => $rows[$i] + 1, $seen),
            array_map(static fn (int $i): float => $outcome[$i], $seen),
            new Likeness($records),
            new Sure(
                $model->task,
                $outcome,
                [] === $answers->values ? new Answers(array_fill(0, \count($outcome) * $width, \NAN), $width) : $answers,
                $trial->question()->classes(),
            ),
        );
        $this->pool->save($item->set($basis)->expiresAfter(self::KEPT));

        return $basis;
    }
}
