module tidykiln

go 1.26.0

require (
	github.com/danielgtaylor/huma/v2 v2.37.2
	github.com/go-sql-driver/mysql v1.10.1
	github.com/pressly/goose/v3 v3.29.0
	github.com/shopspring/decimal v1.6.0
	github.com/stretchr/testify v1.12.1
	gorm.io/driver/mysql v1.6.0
	gorm.io/gorm v1.31.1
	pgregory.net/rapid v1.3.0
)

require (
	filippo.io/edwards25519 v1.2.0 // indirect
	github.com/jinzhu/inflection v1.0.0 // indirect
	github.com/jinzhu/now v1.1.5 // indirect
	github.com/mfridman/interpolate v0.0.2 // indirect
	github.com/sethvargo/go-retry v0.5.0 // indirect
	go.uber.org/multierr v1.11.0 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
	golang.org/x/sync v0.24.0 // indirect
	golang.org/x/text v0.43.0 // indirect
)
