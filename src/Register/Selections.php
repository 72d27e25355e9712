<?php

declare(strict_types=1);

namespace App\Register;

use App\Http\Problem;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Table\DataTable;
use App\Table\TableColumn;
use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Select\Condition;
use Dokimos\Core\Select\Conditions;
use Dokimos\Core\Select\Relation;
use Dokimos\Core\Select\UnclearCondition;
use Dokimos\Core\Stamp;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\ItemInterface;

/** Finds the records that answer a query. What was found is kept for an hour: paging on does not ask again. */
final readonly class Selections
{
    public function __construct(
        private OpenCells $reader,
        private Outcomes $outcomes,
        private CacheInterface $cache,
        private Questions $questions,
    ) {
    }

    public function find(DataTable $table, RowQuery $query): Selection
    {
        $conditions = $query->conditions();
        $only = $query->only();
        $key = 'selection.'.Stamp::of([
            $table->id(),
            $table->fingerprint(),
            array_map(static fn (TableColumn $c) => [$c->version(), $c->stamp()], $table->columns()),
            $this->questions->seal($table->study())->stamp($table),
            $query->where,
            $query->any,
            $query->search,
            $only,
            $query->sort,
            $query->descending,
        ]);

        return $this->cache->get($key, function (ItemInterface $item) use ($table, $query, $conditions, $only): Selection {
            $item->expiresAfter(3600);

            return $this->look($table, $query, $conditions, $only);
        });
    }

    /** @param list<int> $only */
    private function look(DataTable $table, RowQuery $query, Conditions $conditions, array $only): Selection
    {
        $seal = $this->questions->seal($table->study());
        // Who asks for what is hidden in sealed rows is answered from the others alone, and not told how many of them would fit.
        $sealed = [] === array_intersect($conditions->columns(), $seal->hiddenColumns($table)) ? [] : $seal->rowsIn($table);
        try {
            [$found, $without] = $conditions->rows(
                fn (string $name): Column => $this->reader->column($table->column($name) ?? throw new UnclearCondition(\sprintf('There is no column %s.', $name))),
                $table->rows(),
                except: $sealed,
            );
        } catch (UnclearCondition $e) {
            throw Problem::invalid($e->getMessage(), 'where');
        }
        if ('' !== trim($query->search)) {
            $found = $this->searched($table, mb_strtolower(trim($query->search)), $found);
        }
        if ([] !== $only) {
            $found = array_values(array_intersect($found, $only));
        }
        $events = $this->outcomes->ofTable($table);
        $share = null === $events ? null : self::share((string) $this->questions->of($table->study())->event(), $events, $found);
        if (null !== $query->sort) {
            $column = $table->column($query->sort) ?? throw Problem::invalid(
                \sprintf('There is no column %s to sort by.', $query->sort),
                'sort',
            );
            $wanted = array_fill_keys($found, true);
            $found = array_values(array_filter(
                $this->reader->directed($column, $query->descending),
                static fn (int $row) => isset($wanted[$row]),
            ));
        } elseif ($query->descending) {
            $found = array_reverse($found);
        }

        return new Selection(pack('V*', ...$found), \count($found), $without, \count($sealed), $share);
    }

    /**
     * Text and categories that contain it, numbers and dates that are it.
     *
     * @param list<int> $among
     *
     * @return list<int>
     */
    private function searched(DataTable $table, string $text, array $among): array
    {
        $parser = new CellParser();
        $hit = [];
        foreach ($table->columns() as $column) {
            if (\count($hit) === \count($among)) {
                break;
            }
            $cells = $this->reader->column($column);
            $number = $parser->number($text);
            $relation = match (true) {
                $cells instanceof NumberColumn => null === $number ? null : Relation::Is,
                $cells instanceof DateColumn => null === $parser->date($text) ? null : Relation::Is,
                $cells instanceof CodedColumn => Relation::OneOf,
                default => Relation::Contains,
            };
            $values = [$text];
            if ($cells instanceof CodedColumn) {
                $values = array_values(array_filter(
                    $cells->levels,
                    static fn (string $level) => str_contains(mb_strtolower($level), $text),
                ));
            }
            if (null === $relation || [] === $values) {
                continue;
            }
            foreach (array_chunk($values, 200) as $some) {
                $holds = (new Condition($column->name(), $relation, $some))->holds($cells);
                foreach ($among as $row) {
                    if ($holds[$row]) {
                        $hit[$row] = true;
                    }
                }
            }
        }

        return array_values(array_filter($among, static fn (int $row) => isset($hit[$row])));
    }

    /**
     * @param list<float> $events by row, NAN where unknown or sealed
     * @param list<int>   $found
     */
    private static function share(string $event, array $events, array $found): ShareView
    {
        $all = array_filter($events, static fn (float $e) => !is_nan($e));
        $hits = $judged = 0;
        foreach ($found as $row) {
            if (!is_nan($events[$row])) {
                ++$judged;
                $hits += (int) $events[$row];
            }
        }
        $share = Interval::wilson($hits, $judged);

        return new ShareView(
            $event,
            $hits,
            $judged,
            $share->value,
            $share->low,
            $share->high,
            [] === $all ? null : array_sum($all) / \count($all),
        );
    }
}
