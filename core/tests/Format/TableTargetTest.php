<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CannotWrite;
use Dokimos\Core\Format\TableTarget;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Tests\PostgresCluster;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Records as a table of a database: written whole or not at all, read back, never doubled. */
final class TableTargetTest extends TestCase
{
    private const NAMES = ['id', 'chance', 'call', 'on', 'odd "name"; DROP TABLE calls; --'];
    private const KINDS = [Kind::Identifier, Kind::Number, Kind::YesNo, Kind::Date, Kind::Text];

    private static ?string $file = null;

    private static function open(string $engine): \PDO
    {
        if ('sqlite' === $engine) {
            self::$file ??= (string) tempnam(sys_get_temp_dir(), 'target');

            return new \PDO('sqlite:'.self::$file);
        }
        $dsn = \sprintf('pgsql:host=127.0.0.1;port=%d;dbname=lists;sslmode=disable', PostgresCluster::port());

        return new \PDO($dsn, PostgresCluster::WRITER, PostgresCluster::PASSWORD);
    }

    public static function tearDownAfterClass(): void
    {
        null === self::$file || unlink(self::$file);
    }

    /** @return list<list<?string>> */
    private static function records(int $from, int $count): array
    {
        $out = [];
        for ($i = $from; $i < $from + $count; ++$i) {
            $out[] = [
                'B'.$i,
                0 === $i % 7 ? null : (string) (1 / ($i + 3)),
                0 === $i % 2 ? 'yes' : 'no',
                0 === $i % 5 ? null : gmdate(
                    0 === $i % 3 ? 'Y-m-d\TH:i:s' : 'Y-m-d',
                    1_700_000_000 - 1_700_000_000 % 86400 + $i * 86400 + (0 === $i % 3 ? 3661 : 0),
                ),
                ['', "it's", '=1+1', 'ü '.$i, "two\nlines"][$i % 5],
            ];
        }

        return $out;
    }

    /** @return iterable<string, array{string}> */
    public static function engines(): iterable
    {
        yield 'SQLite' => ['sqlite'];
        yield 'PostgreSQL' => ['pgsql'];
    }

    #[DataProvider('engines')]
    public function testWrittenReplacedAndAppended(string $engine): void
    {
        $database = self::open($engine);
        $target = new TableTarget($database);
        self::assertNull($target->columns('calls'));
        $first = $target->write('calls', self::NAMES, self::KINDS, self::records(0, 450), TableTarget::CREATE);
        self::assertSame([450, 450], [$first['written'], $first['there']]);
        self::assertSame(self::NAMES, $target->columns('calls'));
        $sum = $database->query('SELECT sum(chance) FROM calls');
        self::assertNotFalse($sum);
        $wanted = array_sum(array_map(static fn (array $r): float => (float) $r[1], self::records(0, 450)));
        self::assertEqualsWithDelta($wanted, (float) ($sum->fetchAll(\PDO::FETCH_COLUMN)[0] ?? 0), 1e-9);
        // Appending the same, and some more: what is there is not written again.
        $more = $target->write('calls', self::NAMES, self::KINDS, self::records(440, 30), TableTarget::APPEND, 'id');
        self::assertSame([20, 470], [$more['written'], $more['there']]);
        $again = $target->write('calls', self::NAMES, self::KINDS, self::records(440, 30), TableTarget::APPEND, 'id');
        self::assertSame([0, 470], [$again['written'], $again['there']]);
        $replaced = $target->write('calls', self::NAMES, self::KINDS, self::records(0, 3), TableTarget::REPLACE);
        self::assertSame([3, 3], [$replaced['written'], $replaced['there']]);
        self::assertSame(
            $replaced['checksum'],
            $target->write('calls', self::NAMES, self::KINDS, array_reverse(self::records(0, 3)), TableTarget::REPLACE)['checksum'],
            'the same records in whatever order',
        );
        $wrong = [
            'There is a table calls already' => static fn () => $target->write('calls', self::NAMES, self::KINDS, [], TableTarget::CREATE),
            'say which column tells records apart' => static fn () => $target->write('calls', ['a'], [Kind::Text], [], TableTarget::APPEND),
            'has no column other' => static fn () => $target->write(
                'calls',
                ['id', 'other'],
                [Kind::Text, Kind::Text],
                [],
                TableTarget::APPEND,
                'id',
            ),
            'does not tell the records apart' => static fn () => $target->write(
                'calls',
                ['id'],
                [Kind::Text],
                [['X'], ['X']],
                TableTarget::APPEND,
                'id',
            ),
            'begins with a letter' => static fn () => $target->write('calls"; DROP TABLE x', ['a'], [Kind::Text], [], TableTarget::CREATE),
        ];
        foreach ($wrong as $says => $do) {
            try {
                $do();
                self::fail($says);
            } catch (CannotWrite $e) {
                self::assertStringContainsString($says, $e->getMessage());
            }
            $left = $database->query('SELECT count(*) FROM calls');
            self::assertSame(3, (int) (false === $left ? 0 : $left->fetchAll(\PDO::FETCH_COLUMN)[0] ?? 0), 'nothing was changed: '.$says);
        }
        self::assertNull($target->columns('calls__new'));
    }

    #[DataProvider('engines')]
    public function testWhatBreaksOffLeavesEverythingAsItWas(string $engine): void
    {
        $database = self::open($engine);
        $target = new TableTarget($database);
        $target->write('kept', ['id'], [Kind::Text], [['a'], ['b']], TableTarget::REPLACE);
        $breaks = static function (): \Generator {
            yield ['c'];
            throw new \RuntimeException('the source broke off');
        };
        try {
            $target->write('kept', ['id'], [Kind::Text], $breaks(), TableTarget::REPLACE);
            self::fail();
        } catch (\RuntimeException $e) {
            self::assertSame('the source broke off', $e->getMessage());
        }
        $left = $database->query('SELECT id FROM kept ORDER BY id');
        self::assertSame(['a', 'b'], false === $left ? [] : $left->fetchAll(\PDO::FETCH_COLUMN));
        self::assertNull($target->columns('kept__new'));
    }

    public function testAReaderOfADatabaseCannotWrite(): void
    {
        $dsn = \sprintf('pgsql:host=127.0.0.1;port=%d;dbname=lists;sslmode=disable', PostgresCluster::port());
        $target = new TableTarget(new \PDO($dsn, PostgresCluster::READER, PostgresCluster::PASSWORD));
        $this->expectExceptionMessage('The database says: permission denied');
        $target->write('calls_of_reader', ['id'], [Kind::Text], [['a']], TableTarget::CREATE);
    }
}
