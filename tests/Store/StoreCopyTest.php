<?php

declare(strict_types=1);

namespace App\Tests\Store;

use App\Tests\Fixture;
use Dokimos\Core\Tests\PostgresCluster;
use PHPUnit\Framework\TestCase;

/** An installation moves from its file to a server and back with every byte, and never onto something that is there. */
final class StoreCopyTest extends TestCase
{
    public function testItGoesToAServerAndComesBack(): void
    {
        if ('postgres' === getenv('DOKIMOS_TEST_STORE')) {
            self::markTestSkipped('It begins from a file.');
        }
        Fixture::ensure();
        $folder = sys_get_temp_dir().'/dokimos-copy-'.bin2hex(random_bytes(4));
        Fixture::run(['cp', '-a', $_SERVER['DOKIMOS_DATA'], $folder]);
        Fixture::run(['rm', '-rf', $folder.'/workers']);
        $url = PostgresCluster::store();
        try {
            $says = Fixture::console(['dokimos:store:copy', $url], data: $folder)->getOutput();
            self::assertSame(
                1,
                preg_match('/^([\d,]+) rows copied, every byte read on both sides and found the same/m', $says, $there),
                $says,
            );
            $twice = Fixture::run([\PHP_BINARY, 'bin/console', 'dokimos:store:copy', $url], data: $folder, must: false);
            self::assertSame(1, $twice->getExitCode());
            self::assertStringContainsString('holds something already', $twice->getOutput());
            // Back again: the server is the installation's own store now.
            $back = Fixture::run(
                ['env', 'DATABASE_URL='.$url, \PHP_BINARY, 'bin/console', 'dokimos:store:copy', $folder.'/back.sqlite'],
                data: $folder,
            );
            self::assertStringContainsString($there[1].' rows copied', $back->getOutput());
            [$first, $second] = array_map(static fn (string $f): \SQLite3 => new \SQLite3($folder.$f), ['/dokimos.sqlite', '/back.sqlite']);
            foreach ([
                'SELECT group_concat(hex(bytes)) FROM column_chunk',
                'SELECT group_concat(document) FROM fitted_model',
                'SELECT group_concat(known) FROM table_column',
            ] as $all) {
                $here = $first->querySingle($all);
                self::assertIsString($here);
                self::assertTrue($here === $second->querySingle($all), $all);
            }
            self::assertSame('ok', $second->querySingle('PRAGMA integrity_check'));
            // What is made there next gets a number of its own.
            $add = ['env', 'DATABASE_URL='.$url, \PHP_BINARY, 'bin/console', 'dokimos:user:add', 'nora', 'Nora Wells'];
            self::assertSame(0, Fixture::run($add, "a-long-password\n", $folder, false)->getExitCode());
            self::assertStringContainsString(
                'The name nora is taken.',
                Fixture::run($add, "a-long-password\n", $folder, false)->getOutput(),
            );
        } finally {
            Fixture::run(['rm', '-rf', $folder]);
        }
    }
}
