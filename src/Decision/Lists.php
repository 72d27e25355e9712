<?php

declare(strict_types=1);

namespace App\Decision;

use App\Http\Problem;
use App\Judgment\Judgments;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Score\ScoredFile;
use App\Score\ScoredTables;
use App\Score\Scoring;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Trial\Trial;
use Dokimos\Core\Act\ActionList;
use Dokimos\Core\Act\Capacity;
use Dokimos\Core\Act\Chosen;
use Dokimos\Core\Act\ClassTerms;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\Tiers;
use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Stamp;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\Task;
use Psr\Cache\CacheItemPoolInterface;

/** Works decisions out: reads what was scored, orders it, and takes what fits. */
final readonly class Lists
{
    private const KEPT = 86400 * 90;
    private const FORM = 2;

    public function __construct(
        private ScoredTables $scored,
        private ScoredFile $file,
        private OpenCells $reader,
        private Ground $ground,
        private Judgments $judgments,
        private CacheItemPoolInterface $pool,
    ) {
    }

    /** @throws Problem where terms and table do not fit */
    public function of(Scoring $scoring, DecisionTerms $terms): Listed
    {
        self::check($scoring, $terms);
        $answers = $this->scored->answers($scoring);
        $tie = $this->tie($scoring);
        if (Task::MORE === $scoring->task()) {
            $own = new ClassTerms(
                $this->scored->shares($scoring),
                array_map(static fn (array $a): array => array_map(floatval(...), $a['amounts']), $terms->actions),
                array_map(floatval(...), $terms->nothing),
            );
            [$chances, $values] = [$answers, array_fill(0, \count($answers), 0.0)];
        } else {
            $chances = Task::TWO === $scoring->task() ? $answers : $this->beyond($scoring, $answers, $terms);
            $values = $this->values($scoring, $terms, \count($chances));
            $own = new EventTerms($chances, $values, $terms->economics());
        }
        $capacity = new Capacity($terms->most, $terms->each, $this->groups($scoring, $terms));
        [$list, $chosen] = $this->ordered($scoring, $terms, $own, $capacity, $tie);

        return new Listed(
            $own,
            $list,
            $capacity,
            new Tiers($terms->edges(false), null === $terms->worthColumn ? [] : $terms->edges(true)),
            $chances,
            $values,
            $chosen,
            \count(array_filter($chances, is_finite(...))) - \count($list->order),
        );
    }

    /**
     * The order and who is on the list are kept by the terms without edges of tiers.
     *
     * @param \Closure(int): string $tie
     *
     * @return array{ActionList, Chosen}
     */
    private function ordered(
        Scoring $scoring,
        DecisionTerms $terms,
        EventTerms|ClassTerms $own,
        Capacity $capacity,
        \Closure $tie,
    ): array {
        $item = $this->pool->getItem('order.'.Stamp::of([self::FORM, $scoring->id(), $terms->withoutEdges()]));
        $kept = $item->isHit() ? $item->get() : null;
        if (\is_array($kept)) {
            [$order, $acted, $left] = array_map(
                static fn (mixed $rows): array => array_values(unpack('V*', \is_string($rows) ? $rows : '') ?: []),
                $kept + ['', '', ''],
            );

            /* @var list<int> $order @var list<int> $acted @var list<int> $left */
            return [ActionList::inOrder($own, $order), Chosen::again($acted, $left)];
        }
        $list = ActionList::of($own, $tie);
        $chosen = Chosen::of($list, $capacity, $terms->share, $tie, $terms->seed);
        $packed = array_map(static fn (array $rows): string => pack('V*', ...$rows), [$list->order, $chosen->acted, $chosen->left]);
        $this->pool->save($item->set($packed)->expiresAfter(self::KEPT));

        return [$list, $chosen];
    }

    /** @return ?list<int> rows by their chance, where that order is kept with what was scored */
    public function highestFirst(Scoring $scoring): ?array
    {
        return Task::TWO === $scoring->task() ? $this->scored->highestFirst($scoring) : null;
    }

    /** @throws Problem where terms and table do not fit */
    public static function check(Scoring $scoring, DecisionTerms $terms): void
    {
        if (!$scoring->isDone()) {
            throw new Problem(409, 'The scoring is not finished.');
        }
        new Tiers($terms->edges(false), $terms->edges(true));
        if ($terms->worksLow > $terms->works || $terms->works > $terms->worksHigh) {
            throw Problem::invalid('How often an action works lies between its least and its most.', 'works');
        }
        $table = $scoring->table();
        if (null !== $terms->worthColumn && Kind::Number !== $table->column($terms->worthColumn)?->kind()) {
            throw Problem::invalid(\sprintf('%s is no column of numbers in this table.', $terms->worthColumn), 'worthColumn');
        }
        if (null !== $terms->each && (null === $terms->eachBy || null === $table->column($terms->eachBy))) {
            throw Problem::invalid('Choose the column for each value of which there can be so many actions.', 'eachBy');
        }
        if (Task::NUMBER === $scoring->task() && null === $terms->limit) {
            throw Problem::invalid('Choose from which number on a record is acted on.', 'limit');
        }
        if (Task::MORE === $scoring->task()) {
            $classes = \count($scoring->classes());
            $wrong = array_filter($terms->actions, static fn (array $a): bool => \count($a['amounts']) !== $classes);
            if ([] === $terms->actions || [] !== $wrong || \count($terms->nothing) !== $classes) {
                throw Problem::invalid(
                    \sprintf('Each action, and doing nothing, has an amount for each of %d classes.', $classes),
                    'actions',
                );
            }
        }
    }

    /**
     * Of a number the chance that it comes over the limit, or under it.
     *
     * @param list<float> $answers
     *
     * @return list<float>
     */
    private function beyond(Scoring $scoring, array $answers, DecisionTerms $terms): array
    {
        $sure = $this->file->sure($scoring->trial());
        $limit = (float) $terms->limit;
        $chances = [];
        foreach ($answers as $said) {
            $above = is_nan($said) ? null : $sure->above($said, $limit);
            $chances[] = null === $above ? \NAN : ('over' === $terms->side ? $above : 1.0 - $above);
        }

        return $chances;
    }

    /** @return list<float> */
    private function values(Scoring $scoring, DecisionTerms $terms, int $rows): array
    {
        $column = null === $terms->worthColumn ? null : $scoring->table()->column($terms->worthColumn);
        $read = null === $column ? null : $this->reader->column($column);

        // What is worth less than nothing would turn the order around: such a value is not known.
        return $read instanceof NumberColumn
            ? array_map(static fn (float $v): float => $v >= 0.0 ? $v : \NAN, $read->values)
            : array_fill(0, $rows, $terms->worth);
    }

    /** @return list<?string> */
    private function groups(Scoring $scoring, DecisionTerms $terms): array
    {
        $column = null === $terms->each || null === $terms->eachBy ? null : $scoring->table()->column($terms->eachBy);
        if (null === $column) {
            return [];
        }
        $read = $this->reader->column($column);
        $out = [];
        for ($row = 0, $n = $read->count(); $row < $n; ++$row) {
            $out[] = $read->text($row);
        }

        return $out;
    }

    /** @return \Closure(int): string tells a record by its key, where there is one, and by its cells */
    private function tie(Scoring $scoring): \Closure
    {
        $table = $scoring->table();
        $key = self::key($table);
        $cells = $read = null;

        return function (int $row) use ($table, $key, &$cells, &$read): string {
            if (null !== $key) {
                $read ??= $this->reader->column($key);
                $text = $read->text($row);
                if (null !== $text) {
                    return $text;
                }
            }
            $cells ??= $this->hashes($table);

            return $cells[$row];
        };
    }

    /** The column that tells records apart: the key, else the first identifier. */
    public static function key(DataTable $table): ?TableColumn
    {
        $found = null;
        foreach ($table->columns() as $column) {
            if (ColumnUse::Key === $column->use()) {
                return $column;
            }
            $found ??= Kind::Identifier === $column->kind() ? $column : null;
        }

        return $found;
    }

    /** @return list<string> of all cells of each record */
    private function hashes(DataTable $table): array
    {
        $columns = array_values($this->reader->table($table)->columns());
        $out = [];
        for ($row = 0; $row < $table->rows(); ++$row) {
            $cells = '';
            foreach ($columns as $column) {
                $cells .= "\0".$column->text($row);
            }
            $out[] = hash('xxh128', $cells);
        }

        return $out;
    }

    /** How well the chances of a trial hold, on rows that its models had not seen; null where that cannot be told. */
    public function holds(Trial $trial): ?Sigmoid
    {
        $line = $trial->line();
        if (Task::TWO !== $line->task) {
            return null;
        }
        $item = $this->pool->getItem('holds.'.Stamp::of([
            self::FORM,
            $trial->id(),
            $trial->ancestry(),
            $trial->question()->hash(),
            $line->toArray(),
        ]));
        $kept = $item->isHit() ? $item->get() : null;
        if (\is_array($kept) && (null === ($kept[0] ?? null) || $kept[0] instanceof Sigmoid)) {
            return $kept[0] ?? null;
        }
        $this->judgments->onItsRows($trial);
        [, $outcome] = $this->ground->open($trial->study(), []);
        $answers = $trial->answers();
        $known = array_values(array_filter(array_keys($outcome), static fn (int $i): bool => $answers->isKnown($i)));
        try {
            $holds = Sigmoid::fit(
                array_map(static fn (int $i): float => $outcome[$i], $known),
                array_map(static fn (int $i): float => $answers->first($i), $known),
            );
        } catch (CannotCalibrate) {
            $holds = null;
        }
        $this->pool->save($item->set([$holds])->expiresAfter(self::KEPT));

        return $holds;
    }
}
