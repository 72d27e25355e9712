<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\Routing\RouterInterface;

/** Tables that hold one kind of column only: every page of them answers, or says in a sentence why not. */
final class WalkTest extends ApiTestCase
{
    /** @return iterable<string, array{string, \Closure(int): string}> */
    public static function tables(): iterable
    {
        yield 'numbers only' => [
            'a,b,y',
            static fn (int $i): string => \sprintf('%d,%.2f,%d', $i % 17, mt_rand(0, 999) / 7, mt_rand(0, 1)),
        ];
        yield 'a key and a target' => ['id,y', static fn (int $i): string => \sprintf('K%05d,%s', $i, mt_rand(0, 1) ? 'yes' : 'no')];
        yield 'one category' => [
            'c,y',
            static fn (int $i): string => \sprintf('%s,%s', 'abc'[mt_rand(0, 2)], mt_rand(0, 1) ? 'yes' : 'no'),
        ];
        yield 'free text only' => [
            'note,y',
            static fn (int $i): string => \sprintf(
                'calls about %s and %s number %d of the day,%s',
                ['noise', 'water', 'heat'][mt_rand(0, 2)],
                ['valves', 'pumps'][mt_rand(0, 1)],
                $i,
                mt_rand(0, 1) ? 'yes' : 'no',
            ),
        ];
    }

    /** @param \Closure(int): string $line */
    #[DataProvider('tables')]
    public function testEveryPageAnswers(string $head, \Closure $line): void
    {
        $this->signIn();
        mt_srand(3);
        $study = $this->call(
            'POST',
            '/api/studies',
            [
                'name' => 'Walked',
                'question' => 'Does it answer?',
                'uploadId' => $this->upload($head."\n".implode("\n", array_map($line, range(1, 240)))."\n", 'walk.csv'),
            ],
            201,
        )['id'];
        $this->work();
        $table = $this->call('GET', "/api/studies/$study")['tableId'];
        $columns = array_column($this->call('GET', "/api/tables/$table")['columns'], 'id', 'name');
        $value = 'numbers only' === $this->dataName() ? '1' : 'yes';
        $this->call(
            'PUT',
            "/api/studies/$study/target",
            ['column' => 'y', 'event' => $value, 'folds' => 2, 'repeats' => 1],
            200,
            ['If-Match' => (string) $this->call('GET', "/api/studies/$study")['version']],
        );
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0]['id'];
        $trials = [];
        foreach (['baseline', 'tree'] as $learner) {
            if ('baseline' !== $learner && 'a key and a target' === $this->dataName()) {
                continue;
            }
            $trials[] = $this->call('POST', "/api/studies/$study/trials", ['variantId' => $variant, 'learner' => $learner], 202)['subject'];
            $this->work();
        }
        $asked = 0;
        foreach ($this->service(RouterInterface::class)->getRouteCollection() as $route) {
            $path = $route->getPath();
            $ids = match (true) {
                !str_starts_with($path, '/api/') || !\in_array('GET', $route->getMethods() ?: ['GET'], true) => [],
                str_starts_with($path, '/api/tables/') => [$table],
                str_starts_with($path, '/api/columns/') => array_values($columns),
                str_starts_with($path, '/api/trials/') => $trials,
                str_starts_with($path, '/api/studies/{id') => [$study],
                str_starts_with($path, '/api/variants/') => [$variant],
                default => [],
            };
            foreach ($ids as $id) {
                $address = str_replace(
                    ['{id}', '{number}'],
                    [(string) $id, '3'],
                    $path,
                ).(str_ends_with($path, '/two') ? '?x=y&y='.array_key_first($columns) : '').(str_ends_with($path, '/against') ? '?other='.($trials[1] ?? $trials[0]) : '');
                $this->client->request('GET', $address, server: ['HTTP_ACCEPT' => 'application/json']);
                $status = $this->client->getResponse()->getStatusCode();
                if (202 === $status) {
                    $this->work();
                    $this->client->request('GET', $address, server: ['HTTP_ACCEPT' => 'application/json']);
                    $status = $this->client->getResponse()->getStatusCode();
                }
                self::assertContains(
                    $status,
                    [200, 404, 409, 422],
                    $address.': '.substr((string) $this->client->getResponse()->getContent(), 0, 300),
                );
                ++$asked;
            }
        }
        self::assertGreaterThan(25, $asked);
    }
}
