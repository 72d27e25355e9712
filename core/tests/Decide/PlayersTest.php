<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Decide;

use Dokimos\Core\Decide\Players;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Random;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Among whom an answer is shared out. */
final class PlayersTest extends TestCase
{
    private const NAMES = ['a', 'b', 'c', 'd', 'e'];

    /** @return iterable<string, array{list<array<string, mixed>>, list<list<string>>}> */
    public static function made(): iterable
    {
        $product = static fn (string $one, string $other): array => [
            'step' => 'interact',
            'column' => $one,
            'how' => 'product',
            'other' => $other,
        ];
        yield 'nothing is made' => [[], [['a'], ['b'], ['c'], ['d'], ['e']]];
        yield 'a product of two' => [[$product('b', 'd')], [['a'], ['b', 'd'], ['c'], ['e']]];
        yield 'two products that share one' => [[$product('a', 'e'), $product('e', 'c')], [['a', 'c', 'e'], ['b'], ['d']]];
        yield 'two apart' => [[$product('a', 'b'), $product('c', 'd')], [['a', 'b'], ['c', 'd'], ['e']]];
        yield 'four that hang together' => [
            [$product('a', 'b'), $product('b', 'c'), $product('c', 'd')],
            [['a'], ['b'], ['c'], ['d'], ['e']],
        ];
        yield 'one made of four' => [
            [['step' => 'formula', 'name' => 'all', 'formula' => 'a + b * c - d']],
            [['a'], ['b'], ['c'], ['d'], ['e']],
        ];
        yield 'a column scaled belongs to itself' => [[['step' => 'scale', 'columns' => ['a', 'b']]], [['a'], ['b'], ['c'], ['d'], ['e']]];
    }

    /**
     * @param list<array<string, mixed>> $steps
     * @param list<list<string>>         $players
     */
    #[DataProvider('made')]
    public function testWhatIsMadeOfTwoOrThreeIsOnePlayer(array $steps, array $players): void
    {
        $random = Random::stream(4, 'players');
        $columns = $y = [];
        foreach (self::NAMES as $name) {
            $columns[$name] = new NumberColumn(Random::shares($random, 200));
        }
        $table = Table::of($columns, 200);
        for ($i = 0; $i < 200; ++$i) {
            $y[] = array_sum(array_map(static fn (NumberColumn $c): float => $c->values[$i], $columns)) + 0.1 * Random::share($random);
        }
        // A regression uses every column, made ones too.
        $model = (new Trying($table, self::NAMES, $y, Preparation::fromArray($steps), Learners::make('linear', []), null))->whole('y', '');
        self::assertSame($players, Players::of($model, self::NAMES));
        $all = array_merge(...Players::of($model, self::NAMES));
        sort($all);
        self::assertSame(self::NAMES, $all, 'each column in exactly one');
        self::assertSame('a and b', Players::named(['a', 'b']));
    }
}
