<?php

declare(strict_types=1);

namespace App\Tests\Api;

/** Narrowed records that have a name. */
final class SelectionTest extends ApiTestCase
{
    public function testANameIsKeptRenewedAndTakenAway(): void
    {
        $this->signIn();
        $id = $this->study('Return visits')['id'];
        $path = "/api/studies/$id/selections";
        self::assertSame([], $this->call('GET', $path));
        $asked = [
            'name' => ' old boilers ',
            'view' => 'table/1/rows',
            'query' => 'where=[["boiler_age","is over","20"]]',
            'records' => 210,
        ];
        $kept = $this->call('POST', $path, $asked, 201);
        self::assertSame(
            ['old boilers', 'table/1/rows', $asked['query'], 210],
            [$kept['name'], $kept['view'], $kept['query'], $kept['records']],
        );
        $again = $this->call(
            'POST',
            $path,
            ['name' => 'old boilers', 'view' => 'decisions/3', 'query' => 'from=0.2&to=0.5', 'records' => 12],
            201,
        );
        self::assertSame([$kept['id'], 'decisions/3', 12], [$again['id'], $again['view'], $again['records']]);
        $this->call('POST', $path, ['name' => 'b'] + $asked, 201);
        self::assertSame(['b', 'old boilers'], array_column($this->call('GET', $path), 'name'));
        foreach ([
            ['name' => ''],
            ['view' => '//elsewhere'],
            ['view' => 'table/1/rows/../x'],
            ['records' => -1],
            ['query' => str_repeat('x', 4001)],
        ] as $wrong) {
            $this->call('POST', $path, $wrong + $asked, 422);
        }
        $this->call('DELETE', '/api/selections/'.$kept['id'], null, 204);
        self::assertSame(['b'], array_column($this->call('GET', $path), 'name'));
        $this->call('DELETE', '/api/selections/'.$kept['id'], null, 404);
    }
}
