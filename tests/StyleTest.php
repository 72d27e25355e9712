<?php

declare(strict_types=1);

namespace App\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What is written to users is written in one style, wherever the sentence is made. */
final class StyleTest extends TestCase
{
    /** @return iterable<string, array{string, string}> pattern of what is wrong, and the folder and ending of the files it is looked for in */
    public static function slips(): iterable
    {
        yield 'a blank before a percent sign, in PHP' => ['/[\'"].*(%[.\d]*[dsfF]|\d) %%?[ .,;:)\'"]/', 'php'];
        yield 'a blank before a percent sign, on screen' => ['/[}\d\)] %[`\'"<.,;)]/', 'web'];
        yield 'a hyphen as a minus sign before a figure' => ['/[\'"`>]-\$\{/', 'web'];
        yield 'a stream of random numbers made by hand' => ['/new Xoshiro256StarStar\((?!hash\(\'sha256\', \(null === \$seed)/', 'php'];
        yield 'the word percent in figures' => ['/\$\{[^}]*\} percent(?!`)/', 'web'];
    }

    #[DataProvider('slips')]
    public function testOneStyle(string $pattern, string $where): void
    {
        $root = \dirname(__DIR__);
        $found = [];
        $looked = 0;
        foreach ('php' === $where ? ['src', 'core/src'] : ['web/src'] as $folder) {
            $files = new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator("$root/$folder", \FilesystemIterator::SKIP_DOTS));
            /** @var \SplFileInfo $file */
            foreach ($files as $file) {
                if (!\in_array(
                    $file->getExtension(),
                    'php' === $where ? ['php'] : ['ts', 'tsx'],
                    true,
                ) || str_contains($file->getFilename(), '.test.')) {
                    continue;
                }
                ++$looked;
                foreach (file($file->getPathname()) ?: [] as $i => $line) {
                    // Comments and formulas of a language are not sentences.
                    if (1 === preg_match($pattern, $line) && 1 !== preg_match('~^\s*(\*|//|/\*)~', $line)) {
                        $found[] = substr($file->getPathname(), \strlen($root) + 1).':'.($i + 1).' '.trim($line);
                    }
                }
            }
        }
        self::assertGreaterThan(100, $looked);
        self::assertSame([], $found);
    }
}
