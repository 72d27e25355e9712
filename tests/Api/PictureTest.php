<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;

/** Pictures of the demo's table over HTTP. */
final class PictureTest extends ApiTestCase
{
    /**
     * @param array<string, string> $query
     *
     * @return array<mixed>
     */
    private function picture(string $name, array $query = [], int $expected = 200): array
    {
        return $this->call('GET', "/api/tables/1/pictures/$name?".http_build_query($query), null, $expected);
    }

    public function testEachQuestionShowsWhatWasPlanted(): void
    {
        $this->signIn();
        $together = $this->picture('together');
        self::assertSame('return_visit', $together['order'][0]);
        $pairs = array_map(
            static fn (array $p) => implode(' ', [min($p['first'], $p['second']), max($p['first'], $p['second'])]),
            \array_slice($together['pairs'], 0, 6),
        );
        self::assertContains('depot district', $pairs);
        self::assertSame(
            1200,
            max([
                0,
                ...array_map(
                    static fn (array $p) => \in_array('return_visit', [$p['first'], $p['second']], true) ? $p['n'] : 0,
                    $together['pairs'],
                ),
            ]),
            'the target is looked at on unsealed rows only',
        );
        $missing = $this->picture('missing');
        self::assertSame('access_code', $missing['columns'][0]['column']);
        self::assertSame(1200, $missing['other'] + array_sum(array_column($missing['patterns'], 'records')));
        self::assertNotContains('return_visit', array_column($missing['columns'], 'column'), 'sealed outcomes are not missing');
        $apart = array_column($this->picture('apart')['columns'], null, 'column');
        self::assertGreaterThan(0, $apart['travel_km']['above']);
        $number = $apart['travel_km']['apart'][0]['row'];
        $row = $this->call('GET', '/api/tables/1/rows?limit=1&offset='.$number);
        self::assertSame(
            $apart['travel_km']['apart'][0]['value'],
            (float) $row['rows'][0]['cells'][(int) array_search('travel_km', $row['names'], true)],
        );
        self::assertContains('quoted_cost', array_column($this->picture('lopsided')['numbers'], 'column'));
        self::assertSame(0, $this->picture('repeats')['groups']);
        self::assertGreaterThan(50, $this->picture('repeats', ['columns' => '["household_id"]'])['groups']);
    }

    public function testTwoColumnsShowTheEventWhereItMayBeSeen(): void
    {
        $this->signIn();
        $mosaic = $this->picture('two', ['x' => 'tenure', 'y' => 'slot']);
        self::assertSame('mosaic', $mosaic['form']);
        self::assertSame(1200, array_sum(array_column($mosaic['parts'], 'judged')));
        $hidden = $this->picture('two', ['x' => 'tenure', 'y' => 'return_visit']);
        self::assertSame(1200, $hidden['records'], 'sealed outcomes are not drawn');
        self::assertSame('points', $this->picture('two', ['x' => 'days_ahead', 'y' => 'travel_km'])['form']);
    }

    /** @return iterable<array{string, array<string, string>, string}> */
    public static function unclear(): iterable
    {
        yield ['two', ['x' => 'tenure', 'y' => 'nowhere'], 'There is no column nowhere.'];
        yield ['two', ['x' => 'tenure', 'y' => 'tenure'], 'Choose two different columns.'];
        yield ['repeats', ['columns' => '["nowhere"]'], 'There is no column nowhere.'];
        yield ['repeats', ['columns' => '[]'], 'JSON list'];
        yield ['repeats', ['columns' => '[1]'], 'JSON list'];
    }

    /** @param array<string, string> $query */
    #[DataProvider('unclear')]
    public function testAnUnclearQuestionIsSaid(string $picture, array $query, string $sentence): void
    {
        $this->signIn();
        self::assertStringContainsString($sentence, (string) $this->picture($picture, $query, 422)['title']);
    }

    public function testOnlyMembersSeePictures(): void
    {
        foreach (['together', 'missing', 'apart', 'lopsided', 'repeats', 'two?x=a&y=b'] as $picture) {
            $this->call('GET', "/api/tables/1/pictures/$picture", null, 401);
        }
    }
}
