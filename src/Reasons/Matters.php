<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Account\User;
use App\Job\Job;
use App\Job\Jobs;
use App\Judgment\Judgments;
use App\Judgment\Section\LeaningSection;
use App\Judgment\Section\LostView;
use App\Trial\Trial;
use App\Trial\TrialView;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Learn\ShowsImportance;
use Dokimos\Core\Stamp;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\Task;
use Psr\Cache\CacheItemPoolInterface;

/** What matters over all records: shuffled, in single answers, and in the model itself. Definition: docs/methods/accounts.md. */
final readonly class Matters
{
    /** Records whose answers are shared out, and background records each is held against. */
    private const LOOKED = 36;
    private const AGAINST = 30;
    private const KEPT = 86400 * 90;
    private const FORM = 2;

    public function __construct(
        private Bases $bases,
        private Judgments $judgments,
        private Effects $effects,
        private CacheItemPoolInterface $pool,
        private Jobs $jobs,
    ) {
    }

    /** Has a worker look at it: many answers are asked for. */
    public function start(Trial $trial, User $user, ?string $class): Job
    {
        Effects::place($this->bases->reasoning($trial), $class);

        return $this->jobs->once(
            $trial->study(),
            $user,
            MattersRunner::KIND,
            $trial->id(),
            \sprintf('What matters in trial %d', $trial->number()),
            Jobs::QUICK,
            self::asks($class),
        );
    }

    /** @return array<string, array<string, mixed>> the piece that looks at a class, or at the only answer */
    private static function asks(?string $class): array
    {
        return ['all' => ['class' => $class]];
    }

    /** Looks at it and keeps what it finds. */
    public function look(Trial $trial, ?string $class): void
    {
        $reasoning = $this->bases->reasoning($trial);
        $place = Effects::place($reasoning, $class);
        $item = $this->pool->getItem('matters.'.$this->stamp($trial, $place));
        if (!$item->isHit()) {
            $this->pool->save($item->set($this->looked($reasoning, $place))->expiresAfter(self::KEPT));
        }
        $item = $this->pool->getItem('pairs.'.$this->stamp($trial, $class));
        if (!$item->isHit()) {
            $columns = array_map(static fn (MatterLine $l): string => $l->column, $this->of($trial, $class)->columns);
            $this->pool->save($item->set($this->effects->pairs($trial, $columns, $class))->expiresAfter(self::KEPT));
        }
    }

    public function of(Trial $trial, ?string $class): MattersView
    {
        $model = $this->judgments->model($trial);
        $reasoning = $this->bases->reasoning($trial, $model);
        $place = Effects::place($reasoning, $class);
        $item = $this->pool->getItem('matters.'.$this->stamp($trial, $place));
        /** @var array<array-key, array{float, string, list<array{float, float}>, list<string>}>|null $kept */
        $kept = $item->isHit() ? $item->get() : null;
        $lost = [];
        foreach (LeaningSection::of($trial, $model)->columns ?? [] as $line) {
            $lost[$line->column] = $line;
        }
        $own = [];
        foreach ($model->model instanceof ShowsImportance ? $model->model->importance() : [] as $line) {
            $own[$line['column']] = $line['share'];
        }
        $lines = [];
        foreach ($kept ?? [] as $column => [$moves, $goes, $spread, $with]) {
            $column = (string) $column;
            $by = $lost[$column] ?? null;
            $lines[] = new MatterLine($column, $by?->value, $by?->low, $by?->high, $moves, $own[$column] ?? null, $goes, $spread, $with);
        }
        usort($lines, static fn (MatterLine $a, MatterLine $b): int => [$b->lost ?? -1.0, $b->moves] <=> [$a->lost ?? -1.0, $a->moves]);
        $clear = array_filter($lost, static fn (LostView $l): bool => ($l->low ?? 0.0) > 0.0);
        $sum = static fn (array $of): float => array_sum(array_map(static fn (LostView $l): float => max(0.0, $l->value ?? 0.0), $of));

        return new MattersView(
            TrialView::of($trial),
            $model->event,
            $model->target,
            null === $place ? null : $model->classes()[$place],
            $model->classes(),
            $trial->line()->rows,
            min(self::LOOKED, $reasoning->basis->seen->rows),
            $lines,
            \count($clear),
            $sum($lost) > 0.0 ? $sum($clear) / $sum($lost) : 0.0,
            null === $kept,
            null === $kept ? $this->jobs->underWay(MattersRunner::KIND, $trial->id(), self::asks($class))?->id() : null,
        );
    }

    /** @return list<PairView> none before a worker has looked */
    public function pairs(Trial $trial, ?string $class): array
    {
        $item = $this->pool->getItem('pairs.'.$this->stamp($trial, $class));
        /** @var list<PairView>|null $kept */
        $kept = $item->isHit() ? $item->get() : null;

        return $kept ?? [];
    }

    private function stamp(Trial $trial, int|string|null $class): string
    {
        return Stamp::of([self::FORM, Bases::mark($trial), $class]);
    }

    /**
     * @return array<array-key, array{float, string, list<array{float, float}>, list<string>}> per column how far, which way, the spread, and
     *                                                                                         with which others
     */
    private function looked(Reasoning $reasoning, ?int $place): array
    {
        $seen = $reasoning->basis->seen;
        $n = min(self::LOOKED, $seen->rows);
        $rows = array_map(static fn (int $k): int => (int) floor($k * $seen->rows / $n), range(0, max(0, $n - 1)));
        $names = $seen->names();
        $effects = $with = array_fill_keys($names, []);
        foreach ($rows as $row) {
            $told = $reasoning->account($seen->take([$row]), $place, self::AGAINST);
            if (null === $told) {
                continue;
            }
            foreach ($told->players as $j => $players) {
                foreach ($players as $name) {
                    $effects[$name][$row] = $told->values[$j];
                    $with[$name] = array_values(array_diff($players, [$name]));
                }
            }
        }
        $background = $reasoning->basis->background->take(range(0, min(100, $reasoning->basis->background->rows) - 1));
        $least = Task::NUMBER === $reasoning->model->task ? 1e-9 : 0.005;
        $out = [];
        foreach ($names as $name) {
            $own = $effects[$name];
            $grid = $reasoning->grid($name);
            // Every other point tells the direction as well.
            $grid = array_values(array_filter(
                $grid,
                static fn (int $k): bool => \count($grid) < 8 || 0 === $k % 2 || $k === \count($grid) - 1,
                \ARRAY_FILTER_USE_KEY,
            ));
            $numbers = array_values(array_filter($grid, is_float(...)));
            [$mean] = [] === $grid ? [[]] : Effects::means($reasoning->curves($background, $name, $grid, $place));
            $out[$name] = [
                [] === $own ? 0.0 : array_sum(array_map(abs(...), $own)) / \count($own),
                [] === $grid ? 'by its words' : Words::goes(
                    $numbers,
                    [] === $numbers ? array_map(strval(...), $grid) : [],
                    $mean,
                    $least,
                    $seen->column($name) instanceof DateColumn,
                ),
                self::spread($seen->column($name), $own),
                $with[$name],
            ];
        }

        return $out;
    }

    /**
     * @param array<int, float> $effects by row
     *
     * @return list<array{float, float}>
     */
    private static function spread(Column $column, array $effects): array
    {
        $values = [];
        foreach (array_keys($effects) as $row) {
            $values[$row] = match (true) {
                $column->isMissing($row) => null,
                $column instanceof NumberColumn => $column->values[$row],
                $column instanceof DateColumn => (float) $column->seconds[$row],
                default => $column->text($row),
            };
        }
        $known = array_filter($values, static fn (float|string|null $v): bool => null !== $v);
        $order = array_values(array_unique($known));
        sort($order);
        $places = array_flip(array_map(strval(...), $order));
        $out = [];
        foreach ($effects as $row => $effect) {
            $value = $values[$row];
            $out[] = [$effect, null === $value || \count($order) < 2 ? 0.5 : $places[(string) $value] / (\count($order) - 1)];
        }

        return $out;
    }
}
