<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Account\User;
use App\Job\PieceQueue;
use App\Job\RunPiece;
use App\Job\RunPieceHandler;
use App\Tests\Fixture;
use Doctrine\ORM\EntityManagerInterface;
use Symfony\Bundle\FrameworkBundle\KernelBrowser;
use Symfony\Bundle\FrameworkBundle\Test\WebTestCase;

/** Talks to the API as the browser does; each test is rolled back. */
abstract class ApiTestCase extends WebTestCase
{
    protected KernelBrowser $client;

    public static function setUpBeforeClass(): void
    {
        Fixture::ensure();
    }

    protected function setUp(): void
    {
        $this->client = self::createClient();
        $this->client->disableReboot();
    }

    protected function signIn(string $login = 'mara'): void
    {
        $user = $this->entities()->getRepository(User::class)->findOneBy(['login' => $login]);
        self::assertNotNull($user);
        $this->client->loginUser($user);
    }

    /**
     * @template T of object
     *
     * @param class-string<T> $class
     *
     * @return T
     */
    protected function service(string $class): object
    {
        $service = self::getContainer()->get($class);
        self::assertInstanceOf($class, $service);

        return $service;
    }

    protected function entities(): EntityManagerInterface
    {
        return $this->service(EntityManagerInterface::class);
    }

    /**
     * What a trial's page says, its sections laid beside each other.
     *
     * @return array<string, mixed> figures: those of the first section, each figure's interval under its key; baseline and sealed by key; of the others coefficients, rules, choice, importance and course, [] where the page has none
     */
    protected function judged(int $trial, string $method = 'GET', string $path = 'judgment'): array
    {
        $view = $this->call($method, "/api/trials/$trial/$path");
        $sections = array_column($view['sections'], null, 'kind');
        $figures = $view['sections'][0];
        foreach ($figures['figures'] as $line) {
            $figures[$line['figure']['key']] = $line['interval'];
            $figures['baseline'][$line['figure']['key']] = $line['baseline'];
            $figures['sealed'][$line['figure']['key']] = $line['sealed'];
        }

        return [
            'figures' => $figures,
            'coefficients' => $sections['coefficients']['coefficients'] ?? [],
            'rules' => $sections['rules']['rules'] ?? [],
            'choice' => $sections['choice']['steps'] ?? [],
            'importance' => $sections['trees']['importance'] ?? [],
            'course' => $sections['trees']['course'] ?? [],
        ] + $view;
    }

    /**
     * @param array<string, mixed>|null $body
     * @param array<string, string>     $headers
     *
     * @return array<mixed>
     */
    protected function call(string $method, string $path, ?array $body = null, int $expected = 200, array $headers = []): array
    {
        $server = ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'];
        foreach ($headers as $name => $value) {
            $server['HTTP_'.strtoupper(str_replace('-', '_', $name))] = $value;
        }
        $this->client->request($method, $path, server: $server, content: null === $body ? null : json_encode($body, \JSON_THROW_ON_ERROR));
        $response = $this->client->getResponse();
        $content = (string) $response->getContent();
        self::assertSame($expected, $response->getStatusCode(), $method.' '.$path.': '.substr($content, 0, 600));
        $data = '' === $content ? [] : json_decode($content, true);

        return \is_array($data) ? $data : [];
    }

    protected function upload(string $bytes, string $name = 'data.csv'): int
    {
        $begun = $this->call('POST', '/api/uploads', ['fileName' => $name, 'size' => \strlen($bytes)], 201);
        foreach (str_split($bytes, 8 << 20) as $i => $piece) {
            $this->client->request(
                'PUT',
                \sprintf('/api/uploads/%d/pieces?offset=%d', $begun['id'], $i * (8 << 20)),
                server: ['CONTENT_TYPE' => 'application/octet-stream', 'HTTP_PIECE_CHECKSUM' => hash('sha256', $piece)],
                content: $piece,
            );
            self::assertResponseIsSuccessful();
        }
        \assert(\is_int($begun['id']));

        return $begun['id'];
    }

    /** Does what waits, as the workers would. */
    protected function work(int $pieces = \PHP_INT_MAX): int
    {
        $queue = $this->service(PieceQueue::class);
        $handler = $this->service(RunPieceHandler::class);
        $done = 0;
        foreach (['quick', 'long'] as $lane) {
            while ($done < $pieces && null !== $piece = $queue->claim($lane, 'test')) {
                $this->entities()->clear();
                $handler(new RunPiece($piece));
                ++$done;
            }
        }
        $this->entities()->clear();

        return $done;
    }

    /** @return array<mixed> the study of that name */
    protected function study(string $name): array
    {
        foreach ($this->call('GET', '/api/studies') as $study) {
            if (\is_array($study) && $study['name'] === $name) {
                return $study;
            }
        }
        self::fail('There is no study '.$name);
    }
}
