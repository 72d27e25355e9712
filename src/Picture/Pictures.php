<?php

declare(strict_types=1);

namespace App\Picture;

use App\Http\Problem;
use App\Table\DataTable;
use App\Table\Outcomes;
use App\Table\TableColumn;
use App\Table\TableReader;
use Dokimos\Core\Picture\Lopsided;
use Dokimos\Core\Picture\MissingPattern;
use Dokimos\Core\Picture\Repeats;
use Dokimos\Core\Picture\StandsApart;
use Dokimos\Core\Picture\Together;
use Dokimos\Core\Picture\TwoColumns;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Psr\Cache\CacheItemPoolInterface;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\ItemInterface;

/** Draws tables; a picture is kept for a day while nothing it depends on changes. */
final readonly class Pictures
{
    /** Raised when what is kept changes its form or its figures. */
    private const FORM = 2;
    /** Pictures of single columns are made from at most so many records, taken evenly. */
    private const MOST = 102400;

    public function __construct(private TableReader $reader, private Outcomes $outcomes, private CacheInterface $cache, private CacheItemPoolInterface $pool)
    {
    }

    public function missing(DataTable $table): MissingPattern
    {
        return $this->kept($table, 'missing', [], fn () => MissingPattern::of($this->reader->sample($table, array_map(static fn (TableColumn $c) => $c->name(), $table->columns()), self::MOST)[0]));
    }

    /** @param ?list<string> $names */
    public function repeats(DataTable $table, ?array $names): Repeats
    {
        foreach ($names ?? [] as $name) {
            $table->column($name) ?? throw Problem::invalid(\sprintf('There is no column %s.', $name), 'columns');
        }

        // Records are looked for in all of the table: half of a pair proves nothing.
        return $this->kept($table, 'repeats', $names ?? [], fn () => Repeats::of($this->reader->table($table, $names), $names));
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

            return Together::of($cells, $study->table() === $table ? $study->target() : null);
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
        [$cells, $numbers] = $this->reader->sample($table, $names ?? array_map(static fn (TableColumn $c) => $c->name(), $table->columns()), $most);
        $study = $table->study();
        $target = $study->target();
        if ($study->table() === $table && null !== $target && $cells->has($target)) {
            $hidden = array_fill_keys($study->sealedRows(), true);
            $cells = $cells->with($target, self::without($cells->column($target), array_map(static fn (int $row) => isset($hidden[$row]), $numbers)));
        }

        return [$cells, $numbers];
    }

    /** @param list<bool> $hidden */
    private static function without(Column $column, array $hidden): Column
    {
        return match (true) {
            $column instanceof NumberColumn => new NumberColumn(array_map(static fn (float $v, bool $h) => $h ? \NAN : $v, $column->values, $hidden)),
            $column instanceof DateColumn => new DateColumn(array_map(static fn (int $v, bool $h) => $h ? DateColumn::MISSING : $v, $column->seconds, $hidden)),
            $column instanceof CodedColumn => new CodedColumn(array_map(static fn (int $v, bool $h) => $h ? -1 : $v, $column->codes, $hidden), $column->levels, $column->kind()),
            default => $column,
        };
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
        return $this->cache->get(self::key($table, $picture, $about), static function (ItemInterface $item) use ($make): object {
            $item->expiresAfter(86400);

            return $make();
        });
    }

    /** Whether a picture of the whole table need not be drawn again. */
    public function isKept(DataTable $table, string $picture): bool
    {
        return $this->pool->getItem(self::key($table, $picture, []))->isHit();
    }

    /** @param list<string> $about */
    private static function key(DataTable $table, string $picture, array $about): string
    {
        $study = $table->study();

        return 'picture.'.hash('xxh128', json_encode([self::FORM, $picture, $about, $table->id(), $table->fingerprint(), array_map(static fn (TableColumn $c) => [$c->version(), $c->name(), $c->kind()->value], $table->columns()), $study->table() === $table ? [$study->target(), $study->event(), hash('xxh3', implode(',', $study->sealedRows()))] : null], \JSON_THROW_ON_ERROR));
    }
}
