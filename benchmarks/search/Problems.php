<?php

declare(strict_types=1);

namespace Dokimos\Benchmarks\Search;

use App\Demo\VisitGenerator;
use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Random;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/** The demo, the reference's quality cases, and six made problems whose truth is known. */
final class Problems
{
    private const FRESH = 20000;
    private const WORDS = [
        'gate',
        'keys',
        'dog',
        'stairs',
        'park',
        'ring',
        'shop',
        'yard',
        'loft',
        'meter',
        'tap',
        'paint',
        'pump',
        'tile',
        'door',
    ];

    /** @return iterable<string, \Closure(): Problem> */
    public static function all(string $reference): iterable
    {
        yield 'demo' => static fn (): Problem => self::demo();
        foreach (glob($reference.'/learner-quality-*', \GLOB_ONLYDIR) ?: [] as $dir) {
            yield substr(basename($dir), \strlen('learner-quality-')) => static fn (): Problem => self::quality($dir);
        }
        yield 'pair' => static fn (): Problem => self::made(
            'pair',
            4000,
            ['slot', 'channel'],
            static fn (array $r): float => ($r['slot'] >= 2) === (1 === $r['channel']) ? 0.9 : -0.9,
        );
        yield 'ratio' => static fn (): Problem => self::made(
            'ratio',
            4000,
            ['cost', 'years'],
            static fn (array $r): float => abs(log($r['cost'] / $r['years'])) < 0.45 ? 1.2 : -1.2,
        );
        yield 'words' => static fn (): Problem => self::made(
            'words',
            4000,
            ['note'],
            static fn (array $r): float => (str_contains($r['note'], 'dog') ? 1.5 : 0.0) + (str_contains($r['note'], 'keys') ? -1.2 : 0.0) - 0.3,
        );
        yield 'bent' => static fn (): Problem => self::made(
            'bent',
            4000,
            ['cost'],
            static fn (array $r): float => abs($r['cost'] - 5.5) > 2.2 ? 1.1 : -1.1,
        );
        yield 'many' => static fn (): Problem => self::made(
            'many',
            6000,
            ['place'],
            static fn (array $r): float => 1.4 * sin(2.7 * $r['place']),
        );
        yield 'rare' => static fn (): Problem => self::made(
            'rare',
            60000,
            ['slot', 'channel'],
            static fn (array $r): float => -7.6 + (3 === $r['slot'] && 1 === $r['channel'] ? 3.2 : 0.0) + 0.15 * $r['cost'],
        );
    }

    /** The demo's visits, or those of another seed. */
    public static function demo(int $seed = 2026): Problem
    {
        $kinds = [
            'boiler_class' => Kind::Category,
            'booking_note' => Kind::Text,
            'visit_id' => Kind::Identifier,
            'household_id' => Kind::Identifier,
        ];
        $read = static function (int $rows, int $seed) use ($kinds): Table {
            $file = tempnam(sys_get_temp_dir(), 'dokimos-search-').'.csv';
            file_put_contents($file, implode('', iterator_to_array(VisitGenerator::forPart($seed, 'visits')->visits($rows), false)));
            [$table] = (new CsvFile($file))->read($kinds);
            unlink($file);

            return $table;
        };
        $outcome = static fn (Table $t): array => array_map(
            static fn (int $i): float => 'yes' === $t->column('return_visit')->text($i) ? 1.0 : 0.0,
            range(0, $t->rows - 1),
        );
        [$own, $fresh] = [$read(6000, $seed), $read(self::FRESH, 77)];
        $names = array_values(array_diff(
            $own->names(),
            [
                'return_visit',
                'outcome',
                'minutes_on_site',
                'parts_ordered_after',
                'visit_id',
                'household_id',
                'currency',
                'depot',
                'access_code',
            ],
        ));

        return new Problem(
            'demo',
            self::only($own, $names),
            $outcome($own),
            self::only($fresh, $names),
            $outcome($fresh),
            ['no', 'yes'],
            ['booking_note'],
        );
    }

    private static function quality(string $dir): Problem
    {
        [$train] = (new CsvFile($dir.'/train.csv'))->read();
        [$raw] = (new CsvFile($dir.'/test.csv'))->read();
        $names = array_values(array_filter(
            $train->names(),
            static fn (string $n): bool => 'target' !== $n && !$train->column($n) instanceof TextColumn,
        ));
        $new = Table::of(
            array_combine(
                $names,
                array_map(static fn (string $n): Column => Conversion::to($raw->column($n), $train->column($n)->kind()), $names),
            ),
            $raw->rows,
        );
        $values = array_map(static fn (int $r): string => (string) $train->column('target')->text($r), range(0, $train->rows - 1));
        $classes = array_values(array_unique($values));
        sort($classes, \SORT_NATURAL);
        $classes = \count($classes) > 20 ? null : $classes;
        $outcome = static fn (Table $t): array => array_map(
            static fn (int $r): float => null === $classes ? (float) $t->column('target')->text($r) : (float) array_search(
                $t->column('target')->text($r),
                $classes,
                true,
            ),
            range(0, $t->rows - 1),
        );

        return new Problem(basename($dir), self::only($train, $names), $outcome($train), $new, $outcome($raw), $classes, []);
    }

    /**
     * Two categories, one of many values, two numbers, a note, and three columns that say nothing.
     *
     * @param list<string>                          $planted
     * @param \Closure(array<string, mixed>): float $logOdds
     */
    private static function made(string $name, int $rows, array $planted, \Closure $logOdds): Problem
    {
        $draw = static function (int $rows, string $part) use ($name, $logOdds): array {
            $random = Random::stream(11, $name.' '.$part);
            $share = static fn (): float => $random->getInt(0, 1_000_000) / 1_000_000;
            $columns = $y = [];
            for ($i = 0; $i < $rows; ++$i) {
                $words = [];
                for ($w = 0; $w < 5; ++$w) {
                    $words[] = self::WORDS[$random->getInt(0, \count(self::WORDS) - 1)];
                }
                $row = [
                    'slot' => $random->getInt(0, 3), 'channel' => $random->getInt(0, 2), 'place' => $random->getInt(0, 149),
                    'cost' => round(1 + 9 * $share(), 3), 'years' => round(1 + 9 * $share(), 3), 'note' => implode(' ', $words),
                    'a' => $share(), 'b' => $share(), 'c' => $random->getInt(0, 5),
                ];
                foreach ($row as $column => $value) {
                    $columns[$column][] = $value;
                }
                $y[] = $share() < 1 / (1 + exp(-$logOdds($row))) ? 1.0 : 0.0;
            }

            return [Table::of([
                'slot' => new CodedColumn($columns['slot'], ['early', 'noon', 'late', 'night'], Kind::Category),
                'channel' => new CodedColumn($columns['channel'], ['web', 'desk', 'phone'], Kind::Category),
                'place' => new CodedColumn(
                    $columns['place'],
                    array_map(static fn (int $p): string => 'P'.$p, range(0, 149)),
                    Kind::Category,
                ),
                'cost' => new NumberColumn($columns['cost']), 'years' => new NumberColumn($columns['years']),
                'note' => new TextColumn($columns['note']), 'a' => new NumberColumn($columns['a']), 'b' => new NumberColumn($columns['b']),
                'c' => new CodedColumn($columns['c'], ['u', 'v', 'w', 'x', 'y', 'z'], Kind::Category),
            ], $rows), $y];
        };
        [$own, $y] = $draw($rows, 'own');
        [$fresh, $truth] = $draw(max(self::FRESH, $rows), 'fresh');

        return new Problem($name, $own, $y, $fresh, $truth, ['no', 'yes'], $planted);
    }

    /** @param list<string> $names */
    private static function only(Table $table, array $names): Table
    {
        return Table::of(array_combine($names, array_map($table->column(...), $names)), $table->rows);
    }
}
