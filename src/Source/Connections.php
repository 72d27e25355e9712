<?php

declare(strict_types=1);

namespace App\Source;

use App\Account\User;
use App\Http\Problem;
use App\Storage\Sealing;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\ServerDatabase;

/** Databases on servers: only on those the operator lists, with passwords sealed by a key that lies outside the store. */
final readonly class Connections
{
    public const PURPOSE = 'connections';
    private const PORT = 5432;
    private const CONNECTING_SECONDS = 5;
    private const SSL = ['disable', 'prefer', 'require', 'verify-ca', 'verify-full'];

    /** @param string $postgresHosts "name:port mode" with commas between; port and mode may be left out */
    public function __construct(
        private EntityManagerInterface $entities,
        private string $postgresHosts,
        private Sealing $sealing,
    ) {
    }

    /** @return array<string, string> the mode of encryption by "name:port" */
    public function hosts(): array
    {
        $hosts = [];
        foreach (array_filter(array_map(trim(...), explode(',', $this->postgresHosts))) as $entry) {
            [$host, $ssl] = (preg_split('/\s+/', $entry) ?: []) + ['', 'prefer'];
            if (!\in_array($ssl, self::SSL, true)) {
                throw new \RuntimeException(\sprintf(
                    'DOKIMOS_POSTGRES_HOSTS: %s is no mode of encryption; choose one of %s.',
                    $ssl,
                    implode(', ', self::SSL),
                ));
            }
            $hosts[1 === preg_match('/:\d+$/', $host) ? $host : $host.':'.self::PORT] = $ssl;
        }

        return $hosts;
    }

    /** @return list<DatabaseConnection> */
    public function of(User $user): array
    {
        return $this->entities->getRepository(DatabaseConnection::class)->findBy(['user' => $user], ['id' => 'ASC']);
    }

    public function find(User $user, int $id): DatabaseConnection
    {
        $connection = $this->entities->find(DatabaseConnection::class, $id);

        return null !== $connection && $connection->user() === $user ? $connection : throw Problem::notFound('connection');
    }

    /** Tries it first: a connection that does not work is not kept. */
    public function add(User $user, ConnectionRequest $request): DatabaseConnection
    {
        $connection = new DatabaseConnection($user, $request->host, $request->database, $request->login, $this->seal($request->password));
        $this->open($connection)->reach();
        $this->entities->persist($connection);
        $this->entities->flush();

        return $connection;
    }

    public function remove(DatabaseConnection $connection): void
    {
        $this->entities->remove($connection);
        $this->entities->flush();
    }

    public function open(DatabaseConnection $connection): ServerDatabase
    {
        $host = $connection->host();
        $ssl = $this->hosts()[$host] ?? throw Problem::invalid(
            \sprintf('%s is not among the servers that may be read from. The operator of this installation lists them.', $host),
            'host',
        );
        $colon = (int) strrpos($host, ':');

        return new ServerDatabase(
            substr($host, 0, $colon),
            (int) substr($host, $colon + 1),
            $connection->database(),
            $connection->login(),
            $this->unseal($connection->sealed()),
            $ssl,
        );
    }

    /**
     * The same database to write to, as the role that the connection names may: on a listed server only.
     *
     * @throws Problem where it cannot be reached
     */
    public function writing(DatabaseConnection $connection): \PDO
    {
        $host = $connection->host();
        $ssl = $this->hosts()[$host] ?? throw Problem::invalid(
            \sprintf('%s is not among the servers that may be written to. The operator of this installation lists them.', $host),
            'host',
        );
        $colon = (int) strrpos($host, ':');
        $quoted = static fn (string $v): string => "'".addcslashes($v, "'\\")."'";
        try {
            return new \PDO(
                \sprintf(
                    'pgsql:host=%s;port=%d;dbname=%s;sslmode=%s;connect_timeout=%d',
                    $quoted(substr($host, 0, $colon)),
                    (int) substr($host, $colon + 1),
                    $quoted($connection->database()),
                    $ssl,
                    self::CONNECTING_SECONDS,
                ),
                $connection->login(),
                $this->unseal($connection->sealed()),
                [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
            );
        } catch (\PDOException) {
            throw new Problem(409, \sprintf('%s cannot be reached as %s. Nothing was written.', $host, $connection->login()));
        }
    }

    private function seal(#[\SensitiveParameter] string $password): string
    {
        return $this->sealing->seal($password, self::PURPOSE);
    }

    private function unseal(string $sealed): string
    {
        return $this->sealing->open($sealed, self::PURPOSE) ?? throw new Problem(
            409,
            'The password of this connection was kept with another key. Remove the connection and make it anew.',
        );
    }
}
