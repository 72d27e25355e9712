<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\Schema\Column;
use PHPUnit\Framework\Attributes\DataProvider;

/** Lists cost the same questions to the database however long they are, and few bytes a line. */
final class ListsTest extends ApiTestCase
{
    /** @return iterable<string, array{0: string, 1: int, 2?: bool}> path, most bytes of each that is added, and whether studies are */
    public static function lists(): iterable
    {
        yield 'Standings' => ['/api/studies/2/trials', 1100];
        yield 'a study at a glance' => ['/api/studies/2', 700];
        yield 'home' => ['/api/studies', 700];
        yield 'home of many studies' => ['/api/studies', 1600, true];
        yield 'tables' => ['/api/studies/2/tables', 700];
        yield 'batches' => ['/api/studies/2/scorings', 700];
        yield 'logbook' => ['/api/studies/2/logbook', 700];
    }

    #[DataProvider('lists')]
    public function testALongerListAsksNoMore(string $path, int $each, bool $studies = false): void
    {
        $this->signIn();
        $count = function () use ($path): int {
            $this->entities()->clear();
            $before = CountedQueries::$count;
            $this->call('GET', $path);

            return CountedQueries::$count - $before;
        };
        // What a first look may work out has its time: on a slow machine some of it is left to the next, and said to be pending.
        $ask = function () use ($count): array {
            $content = fn (): string => (string) $this->client->getResponse()->getContent();
            // The request that works the last of it out may ask as much as the one before: two that had nothing to do are alike.
            for ($before = -1, $idle = false, $k = 0; $k < 100; ++$k) {
                $last = $count();
                $wasIdle = $idle;
                $idle = !str_contains($content(), '"pending":true');
                if ($wasIdle && $idle && $before === $last) {
                    return [$last, \strlen($content())];
                }
                $before = $last;
            }
            self::fail('It is never worked out.');
        };
        $this->more(6, $studies);
        [$few, $bytes] = $ask();
        self::assertGreaterThan(2, $few, 'they are counted');
        $this->more(12, $studies);
        [$many, $moreBytes] = $ask();
        self::assertSame($few, $many, 'as many questions for a list twice as long');
        self::assertLessThanOrEqual(12 * $each, $moreBytes - $bytes);
    }

    /** More trials, tables and words in the logbook, like those that are there. */
    private function more(int $times, bool $studies): void
    {
        $sql = $this->service(Connection::class);
        $columns = static fn (string $table): array => array_values(
            array_diff(array_map(static fn (Column $c): string => $c->getName(), $sql->createSchemaManager()->listTableColumns($table)),
                ['id'],
            ));
        $copy = static function (string $table, array $own, string $where) use ($sql, $columns): int {
            $names = $columns($table);
            $values = array_map(static fn (string $n): string => $own[$n] ?? "\"$n\"", $names);
            $sql->executeStatement("INSERT INTO $table (".implode(
                ', ',
                array_map(static fn (string $n): string => "\"$n\"", $names),
            ).') SELECT '.implode(', ', $values)." FROM $table WHERE $where");

            return (int) $sql->lastInsertId();
        };
        $trial = $sql->fetchOne("SELECT id FROM trial WHERE study_id = 2 AND state = 'done' LIMIT 1");
        $table = $sql->fetchOne("SELECT id FROM data_table WHERE study_id = 2 AND state = 'ready' LIMIT 1");
        self::assertIsNumeric($trial);
        self::assertIsNumeric($table);
        for ($i = 0; $i < $times; ++$i) {
            $result = $copy('trial_result', [], 'id = (SELECT result_id FROM trial WHERE id = '.$trial.')');
            $next = $sql->fetchOne('SELECT MAX(number) + 1 FROM trial WHERE study_id = 2');
            self::assertIsNumeric($next);
            $copy('trial', ['number' => (string) $next, 'result_id' => (string) $result, 'fitted_id' => 'NULL'], 'id = '.$trial);
            $new = $copy('data_table', ['name' => "'table $next'"], 'id = '.$table);
            $copy('table_column', ['table_id' => (string) $new], 'table_id = '.$table);
            $copy('log_entry', [], 'id = (SELECT MAX(id) FROM log_entry WHERE study_id = 2)');
            if ($studies) {
                $this->call('POST', '/api/studies', ['name' => "Study $i", 'question' => 'Does it hold?'], 201);
            }
        }
    }
}
