module tidykiln

go 1.26.0

require (
	github.com/stretchr/testify v1.12.1
	pgregory.net/rapid v1.3.0
)

require (
	github.com/shopspring/decimal v1.6.0 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
)
