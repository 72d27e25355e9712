<?php

declare(strict_types=1);

namespace App\Finding;

use App\Http\Problem;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Table\DataTable;
use App\Table\TableColumn;
use Dokimos\Core\Findings\Outcome\ClassOutcome;
use Dokimos\Core\Findings\Outcome\EventOutcome;
use Dokimos\Core\Findings\Outcome\NumberOutcome;
use Dokimos\Core\Findings\Outcome\Outcome;
use Dokimos\Core\Findings\Subject;
use Dokimos\Core\Findings\TargetRelations;
use Dokimos\Core\Stamp;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\Task;
use Psr\Cache\CacheItemPoolInterface;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\ItemInterface;

/** What the columns of any table say about one of them, as they do about the target: the answers of scored records, above all. */
final readonly class GoesWith
{
    private const LOOKED_AT = 20480;
    private const MOST_CLASSES = 20;

    /** Raised when what is kept changes its form or its figures. */
    private const FORM = 1;
    private const KEPT = 86400;

    public function __construct(
        private OpenCells $reader,
        private Questions $questions,
        private CacheInterface $cache,
        private CacheItemPoolInterface $pool,
    ) {
    }

    /** @throws Problem when there is no such column, or nothing can be told about it */
    public function asked(DataTable $table, string $name): TableColumn
    {
        $column = $table->column($name) ?? throw Problem::invalid(\sprintf('There is no column %s.', $name), 'column');
        $values = $column->kind()->isCoded() ? \count($column->storedLevels()) : 0;
        if (Kind::Number !== $column->kind() && ($values < 2 || $values > self::MOST_CLASSES)) {
            throw Problem::invalid(
                \sprintf('What goes with %s cannot be told: it is no number and has no 2 to %d values.', $name, self::MOST_CLASSES),
                'column',
            );
        }

        return $column;
    }

    /** Whether what was found is up to date. */
    public function isKept(TableColumn $asked): bool
    {
        return $this->pool->hasItem($this->key($asked));
    }

    /** Of thousands of columns it takes seconds: kept for a day while nothing it depends on changes. */
    public function of(TableColumn $asked): FindingsView
    {
        return $this->cache->get($this->key($asked), function (ItemInterface $item) use ($asked): FindingsView {
            $item->expiresAfter(self::KEPT);

            return $this->look($asked->table(), $asked);
        });
    }

    private function key(TableColumn $asked): string
    {
        $table = $asked->table();

        return 'goes-with.'.Stamp::of([
            self::FORM,
            $table->id(),
            $table->fingerprint(),
            $asked->name(),
            array_map(static fn (TableColumn $c): array => $c->stamp(), $table->columns()),
            $this->questions->seal($table->study())->stamp($table),
        ]);
    }

    private function look(DataTable $table, TableColumn $asked): FindingsView
    {
        $name = $asked->name();
        $names = array_map(static fn (TableColumn $c): string => $c->name(), $table->columns());
        // What the seal hides reads as missing here, so it is not asked about.
        [$cells] = $this->reader->sample($table, $names, self::LOOKED_AT);
        [$outcome, $task, $event, $judged] = self::outcome($cells->column($name));
        $uses = $late = [];
        foreach ($table->columns() as $column) {
            $uses[$column->name()] = $column->use();
            if (!$column->isKnown()) {
                $late[] = $column->name();
            }
        }
        $relations = TargetRelations::of(new Subject($cells, $uses, $late, $asked->name(), $event, null, null, asked: $outcome));

        return new FindingsView($cells->rows, $table->rows(), [], array_map(RelationView::of(...), $relations), [], $asked->name(), $event, $task, $judged);
    }

    /** @return array{Outcome, string, ?string, int} with its task, the event of two values, and how many records have one */
    private static function outcome(Column $cells): array
    {
        $judged = $cells->count() - $cells->missing();
        if ($cells instanceof NumberColumn) {
            return [new NumberOutcome($cells->values), Task::NUMBER, null, $judged];
        }
        \assert($cells instanceof CodedColumn);
        $levels = $cells->levels;
        if (\count($levels) > 2) {
            $known = array_map(static fn (int $code): float => $code < 0 ? \NAN : (float) $code, $cells->codes);

            return [new ClassOutcome($known, $levels), Task::MORE, null, $judged];
        }
        $yes = \in_array('yes', $levels, true) ? (int) array_search('yes', $levels, true) : 1;
        $known = array_map(static fn (int $code): float => $code < 0 ? \NAN : (float) ($code === $yes), $cells->codes);

        return [new EventOutcome($known), Task::TWO, $levels[$yes], $judged];
    }
}
