<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Profile;

use Dokimos\Core\Profile\ScaledBins;
use Dokimos\Core\Profile\Terms;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Words of texts beyond what the reference holds, and bins on two scales. */
final class TermsTest extends TestCase
{
    public function testWordsInAnyScriptAndBrokenLetters(): void
    {
        self::assertSame(['größe', '12', 'añada', 'кот'], Terms::split('Größe 12, a! Añada-КОТ x'));
        self::assertSame(['gate', 'open'], Terms::split("gate \xFF open"));
        self::assertSame([], Terms::split(''));
        $terms = Terms::of(['gate gate 007', null, 'Gate', '']);
        self::assertSame([3, ['007' => 1, 'gate' => 3], ['gate' => 2, '007' => 1]], [$terms->documents, $terms->counts, $terms->texts]);
        self::assertSame([], $terms->weights(1));
        self::assertSame(0.0, $terms->cosine(0, 3));
        self::assertSame([0, 2], $terms->rowsWith('gate'));
    }

    public function testWhatTellsOfAClass(): void
    {
        $terms = Terms::of(['gate here', 'gate there', 'dog here', 'dog there', 'dog', null]);
        $telling = $terms->tellingOf([1, 1, 0, 0, -1, 1], 9);
        self::assertSame(['dog', 'gate'], array_column(\array_slice($telling, 0, 2), 'term'), 'equally telling ones by the alphabet');
        self::assertEqualsWithDelta(4.0, $telling[0]['chi2'], 1e-12);
        self::assertSame([], $terms->tellingOf([1, 1, 1, 1, 1, 1], 9), 'with one class there is nothing to tell');
    }

    /** @return iterable<string, array{list<float>, int, bool, list<float>}> */
    public static function edges(): iterable
    {
        yield 'plain' => [[0.0, 10.0, 4.0, \NAN], 2, false, [0.0, 5.0, 10.0]];
        yield 'logarithmic' => [[1.0, 100.0, 7.0], 2, true, [1.0, 10.0, 100.0]];
        yield 'zeros have a bin of their own' => [[0.0, 1.0, 100.0], 2, true, [0.0, 1.0, 10.0, 100.0]];
        yield 'negatives too' => [[-3.0, 1.0, 100.0], 1, true, [-3.0, 1.0, 100.0]];
        yield 'only zeros' => [[0.0, 0.0], 3, true, [0.0, 0.0]];
        yield 'one value' => [[5.0, 5.0], 3, false, [5.0, 5.0]];
        yield 'nothing' => [[\NAN], 3, false, []];
    }

    /**
     * @param list<float> $values
     * @param list<float> $expected
     */
    #[DataProvider('edges')]
    public function testEdges(array $values, int $bins, bool $log, array $expected): void
    {
        self::assertEqualsWithDelta($expected, ScaledBins::edges($values, $bins, $log), 1e-12);
    }
}
