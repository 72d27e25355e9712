<?php

declare(strict_types=1);

namespace App\Picture;

use App\Http\Problem;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Register\Outcomes;
use App\Table\DataTable;
use App\Table\TableColumn;
use Dokimos\Core\Picture\Lopsided;
use Dokimos\Core\Picture\MissingPattern;
use Dokimos\Core\Picture\Repeats;
use Dokimos\Core\Picture\StandsApart;
use Dokimos\Core\Picture\Together;
use Dokimos\Core\Picture\TwoColumns;
use Dokimos\Core\Stamp;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Table;
use Psr\Cache\CacheItemPoolInterface;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\ItemInterface;

/** Draws tables; a picture is kept for a day while nothing it depends on changes. */
final readonly class Pictures
{
    /** Raised when what is kept changes its form or its figures. */
    private const FORM = 3;
    /** Pictures of single columns are made from at most so many records, taken evenly. */
    private const MOST = 102400;

    public function __construct(private OpenCells $reader, private Outcomes $outcomes, private CacheInterface $cache, private CacheItemPoolInterface $pool, private Questions $questions)
    {
    }

    public function missing(DataTable $table): MissingPattern
    {
        return $this->kept($table, 'missing', [], fn () => MissingPattern::of($this->open($table, ...$this->sample($table, null))[0]));
    }

    /** @param ?list<string> $names */
    public function repeats(DataTable $table, ?array $names): Repeats
    {
        foreach ($names ?? [] as $name) {
            $table->column($name) ?? throw Problem::invalid(\sprintf('There is no column %s.', $name), 'columns');
        }

        // Records are looked for in all of the table: half of a pair proves nothing.
        return $this->kept($table, 'repeats', $names ?? [], function () use ($table, $names): Repeats {
            $columns = $names ?? array_map(static fn (TableColumn $c): string => $c->name(), $table->columns());
            $walk = $this->reader->walk($table, $columns);
            $parts = (static function () use ($walk, $table): \Generator {
                for ($frame = 0; $frame * FrameCodec::ROWS < $table->rows(); ++$frame) {
                    yield $walk->at($frame);
                }
            })();

            return Repeats::among($parts, $columns, static function (int $row) use ($walk, $columns): array {
                $part = $walk->at(intdiv($row, FrameCodec::ROWS));

                return array_map(static fn (string $name): ?string => $part->column($name)->text($row % FrameCodec::ROWS), $columns);
            });
        });
    }

    public function apart(DataTable $table): StandsApart
    {
        return $this->kept($table, 'apart', [], function () use ($table): StandsApart {
            [$cells, $numbers] = $this->sample($table, null);

            return StandsApart::of($cells)->numbered($numbers);
        });
    }

    public function lopsided(DataTable $table): Lopsided
    {
        return $this->kept($table, 'lopsided', [], fn () => Lopsided::of($this->sample($table, null)[0]));
    }

    public function together(DataTable $table): Together
    {
        return $this->kept($table, 'together', [], function () use ($table): Together {
            [$cells] = $this->sample($table, null, 2 * Together::SAMPLE);
            $study = $table->study();

            return Together::of($cells, $this->questions->of($study)->table() === $table ? $this->questions->of($study)->target() : null);
        });
    }

    public function two(DataTable $table, string $x, string $y): TwoColumns
    {
        foreach (['x' => $x, 'y' => $y] as $field => $name) {
            $table->column($name) ?? throw Problem::invalid(\sprintf('There is no column %s.', $name), $field);
        }
        if ($x === $y) {
            throw Problem::invalid('Choose two different columns.', 'y');
        }

        return $this->kept($table, 'two', [$x, $y], function () use ($table, $x, $y): TwoColumns {
            [$cells, $numbers] = $this->sample($table, [$x, $y]);

            return TwoColumns::of($cells, $x, $y, $this->event($table, $numbers))->numbered($numbers);
        });
    }

    /**
     * Cells of a table or of evenly spread parts of it; of the target only what is not sealed.
     *
     * @param ?list<string> $names
     *
     * @return array{Table, list<int>}
     */
    private function sample(DataTable $table, ?array $names, int $most = self::MOST): array
    {
        return $this->reader->sample($table, $names ?? array_map(static fn (TableColumn $c) => $c->name(), $table->columns()), $most);
    }

    /**
     * The same without sealed rows where some of their cells are hidden: what is hidden is neither missing nor equal.
     *
     * @param list<int> $numbers
     *
     * @return array{Table, list<int>}
     */
    private function open(DataTable $table, Table $cells, array $numbers): array
    {
        $seal = $this->questions->seal($table->study());
        if ([] === array_intersect($seal->hiddenColumns($table), $cells->names())) {
            return [$cells, $numbers];
        }
        $sealed = array_fill_keys($seal->rowsIn($table), true);
        $places = array_keys(array_filter($numbers, static fn (int $row) => !isset($sealed[$row])));

        return [$cells->take($places), array_map(static fn (int $place) => $numbers[$place], $places)];
    }

    /**
     * @param list<int> $numbers
     *
     * @return ?list<float>
     */
    private function event(DataTable $table, array $numbers): ?array
    {
        $all = $this->outcomes->ofTable($table);

        return null === $all ? null : array_map(static fn (int $row): float => $all[$row], $numbers);
    }

    /**
     * @template T of object
     *
     * @param list<string>  $about
     * @param \Closure(): T $make
     *
     * @return T
     */
    private function kept(DataTable $table, string $picture, array $about, \Closure $make): object
    {
        return $this->cache->get($this->key($table, $picture, $about), static function (ItemInterface $item) use ($make): object {
            $item->expiresAfter(86400);

            return $make();
        });
    }

    /** Whether a picture of the whole table need not be drawn again. */
    public function isKept(DataTable $table, string $picture): bool
    {
        return $this->pool->getItem($this->key($table, $picture, []))->isHit();
    }

    /** @param list<string> $about */
    private function key(DataTable $table, string $picture, array $about): string
    {
        $study = $table->study();

        return 'picture.'.Stamp::of([self::FORM, $picture, $about, $table->id(), $table->fingerprint(), array_map(static fn (TableColumn $c) => [$c->version(), $c->name(), $c->kind()->value], $table->columns()), $this->questions->seal($study)->stamp($table)]);
    }
}
