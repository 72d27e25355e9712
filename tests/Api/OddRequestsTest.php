<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;

/**
 * Whatever is sent to a route of the API's document, property by property and parameter by parameter, is answered, or refused with a
 * sentence: nothing odd reaches a program's own words, and nothing stops the server.
 */
final class OddRequestsTest extends ApiTestCase
{
    /** What a body may hold where another thing is expected. */
    private const ODD = [
        'null' => null,
        'empty' => '',
        'a word' => 'luck',
        'a quote' => "O'Neil\"; DROP TABLE study; --",
        'no text' => "\u{0}\u{1F9ED}",
        'long' => 'LONG',
        'below nothing' => -1,
        'zero' => 0,
        'a part' => 0.5,
        'huge' => 1e308,
        'beyond integers' => 9223372036854775807,
        'yes' => true,
        'a list' => [1, 'two', null],
        'lists in lists' => [[[]]],
        'an object' => ['column' => 'slot', 'step' => 'fill', 'learner' => 'tree', 'names' => 7],
    ];
    /** What an address may hold. */
    private const WORDS = [
        '',
        'luck',
        '-1',
        '1e400',
        'NaN',
        '99999999999999999999',
        '%00',
        '[["slot"]]',
        '{"a":',
        'slot',
        "'; --",
        '0.5,1',
    ];
    /** Would leave nothing to ask, or end the session. */
    private const LEFT = ['/api/sign-in', '/api/setup', '/api/setup/invited', '/api/session/end', '/api/uploads/{id}/pieces'];

    private static int $trial = 0;
    private static int $scoring = 0;
    private static int $search = 0;
    private ?int $variant = null;

    /** @return array{paths: array<string, array<string, mixed>>, components: array<string, mixed>} */
    private static function document(): array
    {
        /** @var array{paths: array<string, array<string, mixed>>, components: array<string, mixed>} */
        return json_decode((string) file_get_contents(\dirname(__DIR__, 2).'/docs/openapi.json'), true, 512, \JSON_THROW_ON_ERROR);
    }

    /** @return iterable<string, array{string}> the beginning of the paths that are tried together */
    public static function parts(): iterable
    {
        foreach (array_unique(array_map(
            static fn (string $path): string => explode('/', $path)[2],
            array_keys(self::document()['paths']),
        )) as $part) {
            yield $part => [$part];
        }
    }

    private function prepared(): void
    {
        $variant = $this->variant();
        $asked = ['variantId' => $variant, 'learner' => 'logistic'];
        self::$trial = $this->call('POST', '/api/studies/1/trials', $asked, 202)['subject'];
        $this->work();
        $table = $this->call('GET', '/api/studies/1')['tableId'];
        $list = ['trialId' => self::$trial, 'tableId' => $table, 'cutoff' => 0.2];
        self::$scoring = $this->call('POST', '/api/studies/1/scorings', $list, 202)['subject'];
        $space = ['learner' => 'tree', 'settings' => ['depth' => ['list' => [1, 2]]]];
        self::$search = $this->call('POST', '/api/studies/1/searches', ['spaces' => [$space], 'variantIds' => [$variant]], 202)['subject'];
        $this->work();
    }

    private static function at(string $path): string
    {
        $id = match (explode('/', $path)[2]) {
            'trials' => self::$trial,
            'scorings' => self::$scoring,
            'searches' => self::$search,
            'columns' => 4,
            default => 1,
        };

        return strtr($path, ['{id}' => (string) $id, '{number}' => '3', '{name}' => 'visits']);
    }

    /** @return array<string, string> the version a change is to be made of, as the screen that asks would send it */
    private function version(string $path): array
    {
        return match (true) {
            str_starts_with($path, '/api/studies/') => ['If-Match' => (string) $this->call('GET', '/api/studies/1')['version']],
            str_starts_with($path, '/api/columns/') => ['If-Match' => (string) $this->call('GET', '/api/columns/4')['column']['version']],
            str_starts_with($path, '/api/variants/') => [
                'If-Match' => (string) $this->call('GET', '/api/studies/1/preparation')['variants'][0]['version'],
            ],
            default => [],
        };
    }

    /** @param array<string, mixed>|null $body */
    private function ask(string $method, string $address, ?array $body, string $what): int
    {
        $server = ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'];
        foreach (null === $body ? [] : $this->version($address) as $name => $value) {
            $server['HTTP_'.strtoupper(str_replace('-', '_', $name))] = $value;
        }
        ob_start();
        $this->client->request($method, $address, server: $server, content: null === $body ? null : (string) json_encode($body));
        ob_end_clean();
        $status = $this->client->getResponse()->getStatusCode();
        $content = (string) $this->client->getResponse()->getContent();
        $said = "$method $address, $what: $status ".substr($content, 0, 400);
        self::assertLessThan(500, $status, $said);
        self::assertNotContains($status, [401, 403, 405, 412, 428], $said);
        if ($status >= 400) {
            $problem = json_decode($content, true);
            self::assertIsArray($problem, $said);
            self::assertIsString($problem['title'] ?? null, $said);
            self::assertMatchesRegularExpression('/^\S.*\S$/su', $problem['title'], $said);
            self::assertDoesNotMatchRegularExpression(
                '/Exception|\.php|SQLSTATE|Doctrine|Symfony|Stack trace|App\\\\|Dokimos\\\\/',
                $content,
                $said,
            );
        }

        return $status;
    }

    #[DataProvider('parts')]
    public function testIsAnsweredOrRefusedWithASentence(string $part): void
    {
        $this->signIn();
        if (\in_array($part, ['studies', 'trials', 'scorings', 'searches'], true)) {
            $this->prepared();
        }
        $document = self::document();
        $tried = 0;
        foreach ($document['paths'] as $path => $operations) {
            if (!str_starts_with($path, "/api/$part") || \in_array($path, self::LEFT, true) || explode('/', $path)[2] !== $part) {
                continue;
            }
            foreach ($operations as $method => $operation) {
                if ('delete' === $method) {
                    continue;
                }
                $method = strtoupper($method);
                $parameters = array_filter((array) ($operation['parameters'] ?? []), static fn (array $p): bool => 'query' === $p['in']);
                foreach (array_values($parameters) as $k => $parameter) {
                    // A ninth of the words each, another ninth for the next parameter: all are tried, not all with all.
                    foreach (self::WORDS as $i => $word) {
                        if (0 === ($i + $k) % 9) {
                            $query = http_build_query([$parameter['name'] => $word]);
                            $this->ask($method, self::at($path).'?'.$query, 'GET' === $method ? null : [], $parameter['name'].' is '.$word);
                            ++$tried;
                        }
                    }
                }
                $schema = $operation['requestBody']['content']['application/json']['schema'] ?? null;
                $name = null === $schema ? null : basename($schema['$ref'] ?? '');
                $properties = $document['components']['schemas'][$name ?? '']['properties'] ?? [];
                foreach (array_map(strval(...), array_keys($properties)) as $k => $property) {
                    foreach (array_keys(self::ODD) as $i => $odd) {
                        if (0 === ($i + $k) % 9) {
                            $value = 'long' === $odd ? str_repeat('a long name ', 800) : self::ODD[$odd];
                            $body = [$property => $value] + $this->usual((string) $name);
                            $this->ask($method, self::at($path), $body, "$property is $odd");
                            ++$tried;
                        }
                    }
                }
                if (null !== $schema) {
                    $this->ask($method, self::at($path), [], 'nothing');
                    $this->ask($method, self::at($path), ['nowhere' => ['known' => 1]], 'something else');
                    $tried += 2;
                }
            }
        }
        self::assertGreaterThanOrEqual(0, $tried);
    }

    private function variant(): int
    {
        return $this->variant ??= $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
    }

    /**
     * A body that would be taken, so that the one odd thing in it is looked at.
     *
     * @return array<string, mixed>
     */
    private function usual(string $request): array
    {
        return match ($request) {
            'TrialRequest', 'SeveralRequest' => ['variantId' => $this->variant(), 'learner' => 'baseline', 'learners' => ['baseline']],
            'SearchRequest' => [
                'variantIds' => [$this->variant()],
                'spaces' => [['learner' => 'tree', 'settings' => ['depth' => ['list' => [1]]]]],
            ],
            'MatchRequest' => ['trialId' => self::$trial, 'tableId' => 1, 'cutoff' => 0.5],
            'TargetRequest' => ['tableId' => 1, 'column' => 'return_visit', 'event' => 'yes'],
            'StudyRequest' => ['name' => 'Odd', 'question' => 'Does it hold?'],
            'ImportRequest' => ['uploadId' => 1, 'name' => 'odd'],
            'UploadRequest' => ['fileName' => 'odd.csv', 'size' => 5],
            'ReachRequest' => ['low' => 0.1, 'high' => 0.4],
            'GroupRequest' => ['high' => 0.2],
            'VariantRequest' => ['name' => 'Odd', 'steps' => []],
            'CombineRequest' => ['tableId' => 1, 'otherId' => 4, 'name' => 'odd', 'preview' => true],
            'ChoiceRequest' => ['name' => 'Odd', 'names' => ['slot'], 'without' => true],
            'ReduceRequest' => ['names' => ['slot']],
            'RankRequest' => ['figure' => 'auc'],
            default => [],
        };
    }
}
